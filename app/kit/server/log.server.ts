/** The process's structured log (set by server.js); the console where there is none, as in tests. */
export function logError(message: string): void {
  const { houndLog } = globalThis as { houndLog?: { error: (message: string) => void } };
  if (houndLog) houndLog.error(message);
  else console.error(message);
}
