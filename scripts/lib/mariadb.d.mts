export interface RunningDatabase {
  pid: number;
  port: number;
  url(database?: string): string;
  stop(): Promise<void>;
}
export function startMariaDb(
  folder: string,
  wantedPort: number,
  database?: string,
  flags?: string[],
): Promise<RunningDatabase>;
export function readSchema(url: string, file: string): void;
