import { must } from "../core/must";
import type { Column } from "./columns";
import { getDb, migrate, TABLES } from "./index";

/** The tables as they are written down, held against the schema that the migrations made. */
interface SchemaColumn {
  tableName: string;
  name: string;
  type: string;
  nullable: string;
  hasDefault: number | boolean;
  keyKind: string;
  extra: string;
}

/** The schema's way of writing a type, as the columns write it. */
function kindOf(type: string): string {
  const words = /^enum\((.*)\)$/.exec(type)?.[1];
  if (words) return `varchar(${Math.max(...words.split(",").map((word) => word.length - 2))})`;
  if (/^(tiny|small|medium)?int\(\d+\)/.test(type) && type !== "tinyint(1)") return "int";
  return type.replace(/^bigint.*/, "bigint").replace(/^(medium|long)text$/, "text");
}

const snake = (name: string): string => name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);

let schema: SchemaColumn[];
beforeAll(async () => {
  await migrate(getDb().sequelize);
  schema = await getDb().select<SchemaColumn>(
    `SELECT TABLE_NAME AS tableName, COLUMN_NAME AS name, COLUMN_TYPE AS type, IS_NULLABLE AS nullable,
       COLUMN_DEFAULT IS NOT NULL AS hasDefault, COLUMN_KEY AS keyKind, EXTRA AS extra
     FROM information_schema.columns WHERE TABLE_SCHEMA = DATABASE() AND TABLE_NAME <> 'migrations'`,
  );
});
afterAll(() => getDb().close());

it("every table has a model, every model a table", () => {
  expect(
    Object.values(TABLES)
      .map((table) => table.name)
      .sort(),
  ).toEqual([...new Set(schema.map((column) => column.tableName))].sort());
});

it.each(Object.entries(TABLES))("%s says what its table is", (_, { name, columns }) => {
  const inSchema = new Map(schema.filter((one) => one.tableName === name).map((one) => [one.name, one]));
  expect(Object.keys(columns).map(snake).sort()).toEqual([...inSchema.keys()].sort());
  for (const [property, { options, sql }] of Object.entries<Column<unknown, boolean>>(columns)) {
    const found = must(inSchema.get(snake(property)));
    const where = `${name}.${property}`;
    // MariaDB keeps JSON as text with a check.
    const kind = kindOf(found.type);
    expect([where, kind]).toEqual([where, sql === "json" && kind === "text" ? "text" : sql]);
    expect([where, "nullable", options.allowNull === true]).toEqual([where, "nullable", found.nullable === "YES"]);
    expect([where, "key", options.primaryKey === true]).toEqual([where, "key", found.keyKind === "PRI"]);
    expect([where, "numbered", options.autoIncrement === true]).toEqual([
      where,
      "numbered",
      /auto_increment/.test(found.extra),
    ]);
    if (found.nullable === "NO" && !options.autoIncrement)
      expect([where, "default", options.defaultValue !== undefined]).toEqual([
        where,
        "default",
        Boolean(found.hasDefault),
      ]);
  }
});

it("what is read back is what types say: booleans, numbers, days, instants to the millisecond, JSON", async () => {
  const at = new Date("2026-03-29T01:30:00.123Z");
  const [row] = await getDb().select<Record<string, unknown>>(
    "SELECT CAST(1.250 AS DECIMAL(14,3)) AS qty, 1 = 1 AS yes, NULL = 1 AS unknown, :at AS text, CAST(:at AS DATETIME(3)) AS at, DATE '2026-03-29' AS day, SUM(2) AS sum, COUNT(*) AS count",
    { at },
  );
  expect(row).toEqual({
    qty: 1.25,
    yes: true,
    unknown: null,
    text: "2026-03-29 01:30:00.123",
    at,
    day: "2026-03-29",
    sum: 2,
    count: 1,
  });
});
