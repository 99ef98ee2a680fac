/** MariaDB's error number behind an error of the connector, 0 when there is none. */
export function errorNumber(error: unknown): number {
  const at = error as { errno?: number; parent?: { errno?: number }; original?: { errno?: number } } | undefined;
  return at?.errno ?? at?.parent?.errno ?? at?.original?.errno ?? 0;
}

const LOST = /^(ECONN|EPIPE|ETIMEDOUT|EHOST|ENOTFOUND|PROTOCOL_CONNECTION_LOST)/u;

/** Whether no connection was made: nothing can have been done. */
export const isNeverConnected = (error: unknown): boolean =>
  /^Sequelize(Connection|Host)/u.test((error as { name?: string } | undefined)?.name ?? "");

/** Whether there was no connection, or it was lost on the way: what was asked may have been done. */
export function isConnectionLost(error: unknown): boolean {
  const { code, parent } = error as { code?: unknown; parent?: { code?: unknown } };
  return isNeverConnected(error) || [code, parent?.code].some((one) => typeof one === "string" && LOST.test(one));
}
