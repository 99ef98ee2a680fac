export function freePort(wanted: number): Promise<number>;
export function sleep(ms: number): Promise<void>;
export function isAlive(pid: number | undefined): boolean;
export function findProgram(name: string): string | null;
