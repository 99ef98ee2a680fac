import type { BreakRule } from "@db";

/** What new people's days are planned with until somebody says otherwise: half an hour about the middle (common practice). */
export const MIDDAY: BreakRule[] = [{ minutes: 30, from: 180, by: 300 }];
