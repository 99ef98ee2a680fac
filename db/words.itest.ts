import { getDb, migrate } from "./index";
import { words } from "./migrations/0008-words";

beforeAll(() => migrate(getDb().sequelize));
afterAll(() => getDb().close());

const namesNow = async (): Promise<unknown[]> =>
  getDb().select(
    `SELECT TABLE_NAME AS t, COLUMN_NAME AS c FROM information_schema.COLUMNS WHERE TABLE_SCHEMA = DATABASE()
     AND (COLUMN_NAME REGEXP '^(plan|run|event)_id$' OR TABLE_NAME IN ('plans', 'runs', 'run_events', 'run_minutes', 'machine_events'))`,
  );

describe("the renaming of tables and columns", () => {
  it("leaves none of the old names", async () => {
    expect(await namesNow()).toEqual([]);
  });

  it("can be run again, as after a crash in the middle of it, and begun from any part of the way", async () => {
    const query = (sql: string): Promise<unknown> => getDb().sequelize.query(sql);
    await words.up(query);
    await query("ALTER TABLE reservations RENAME COLUMN duty_id TO plan_id");
    await query("ALTER TABLE machine_holds RENAME INDEX machine_holds_entry TO machine_holds_event");
    expect(await namesNow()).toHaveLength(1);
    await words.up(query);
    expect(await namesNow()).toEqual([]);
  });
});
