import { ValidationError } from "yup";

import { asRefusal } from "./database-refusal.server";

/** Answers a program: the work's outcome as JSON, or an expected "no" with its code and words. */
export async function apiAnswer(work: () => Promise<object>): Promise<Response> {
  const headers: Record<string, string> = { "Cache-Control": "no-store" };
  try {
    return Response.json(await work(), { headers });
  } catch (error) {
    if (error instanceof ValidationError)
      return Response.json({ code: "not-valid", message: error.errors.join("; ") }, { status: 422, headers });
    const refusal = asRefusal(error);
    if (!refusal) throw error;
    // The rest of an oversized body is not read, so the connection cannot be used again.
    if (refusal.status === 413) headers.Connection = "close";
    return Response.json({ code: refusal.code, message: refusal.message }, { status: refusal.status, headers });
  }
}
