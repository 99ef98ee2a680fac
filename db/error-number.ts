/** MariaDB's error number behind an error of the connector, 0 when there is none. */
export function errorNumber(error: unknown): number {
  const at = error as { errno?: number; parent?: { errno?: number }; original?: { errno?: number } } | undefined;
  return at?.errno ?? at?.parent?.errno ?? at?.original?.errno ?? 0;
}
