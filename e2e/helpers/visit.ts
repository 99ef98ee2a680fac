import { expect, type Page } from "@playwright/test";
import { v7 as uuidv7 } from "uuid";

import { must } from "../../core/must";

/** Signed in as a lead: a duty of its own for each machine, its sheet open in the person's hands, and every step of it worked. */
export async function workVisit(page: Page, tags: readonly string[], duty: string): Promise<string[]> {
  const { origin } = new URL((await page.request.get("/healthz")).url());
  const post = async (path: string, form: Record<string, string>): Promise<string> => {
    const answer = await page.request.post(`${origin}${path}`, { form, headers: { Origin: origin }, maxRedirects: 0 });
    expect(answer.status(), path).toBe(302);
    return must(answer.headers()["location"]);
  };
  const sheets: string[] = [];
  for (const tag of tags) {
    const machine = must((await page.request.get(`${origin}/t/${tag}`, { maxRedirects: 0 })).headers()["location"]);
    const rules = await post(`${machine}/set-up`, { intent: "duty", procedureId: "own-duty", title: duty });
    const sheet = await post(rules.replace(/\/rules$/, ""), { intent: "open" });
    const sheetId = must(sheet.split("/").pop());
    const log = `${origin}/api/sheets/${sheetId}/entries`;
    const { entries } = (await (await page.request.get(`${log}?have=0`)).json()) as { entries: { by: string }[] };
    const { by } = must(entries[0]);
    const worked = [
      { type: "safety-confirmed", step: "make-safe" },
      { type: "step-done", step: "look-over", answer: "ok" },
      { type: "step-done", step: "do-it" },
      { type: "step-done", step: "prove", answer: "ok" },
    ].map((body) => ({
      id: uuidv7(),
      runId: sheetId,
      at: new Date().toISOString(),
      by,
      device: "phone",
      round: 1,
      ...body,
    }));
    const answer = await page.request.post(log, { data: { entries: worked }, headers: { Origin: origin } });
    expect(await answer.json()).toMatchObject({ refused: [] });
    sheets.push(sheetId);
  }
  return sheets;
}
