import { getDb } from "@db";
import type { Request, Response } from "express";

const LIMIT_MS = 3000;

/** 200 when the app and its database answer, else 503: for load balancers and the start script. */
export async function health(_request: Request, response: Response): Promise<void> {
  const started = performance.now();
  try {
    const timeout = new Promise<never>((_, reject) =>
      setTimeout(() => reject(new Error("no answer in time")), LIMIT_MS).unref(),
    );
    await Promise.race([getDb().sequelize.authenticate(), timeout]);
    response.json({
      status: "ok",
      database: "ok",
      databaseMs: Math.round(performance.now() - started),
      build: process.env.HOUND_BUILD ?? "dev",
    });
  } catch (error) {
    response.status(503).json({ status: "failing", database: (error as Error).message });
  }
}
