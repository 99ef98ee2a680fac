import { type DbWatch, dbWatch, setDbWatch, verbOf, watched, withoutValues } from "./watch";

describe("a statement without what is in it", () => {
  it.each([
    [
      "SELECT id FROM persons WHERE sign_in = 'o''brien' AND n = 12.5",
      "SELECT id FROM persons WHERE sign_in = ? AND n = ?",
    ],
    [String.raw`UPDATE x SET a = 'it\'s', b = X'ff00'`, "UPDATE x SET a = ?, b = ?"],
    ["INSERT INTO t (a, b) VALUES ('1', 2),('x', 3), ('y', 4)", "INSERT INTO t (a, b) VALUES (?), …"],
    ["SELECT 1\n  FROM t1 WHERE a IN (1, 2,3)", "SELECT ? FROM t1 WHERE a IN (?, …)"],
    ["SELECT :name FROM a", "SELECT :name FROM a"],
  ])("%s", (sql, words) => expect(withoutValues(sql)).toBe(words));

  it("is cut when it is long", () => {
    expect(withoutValues(`SELECT ${"a, ".repeat(1000)}`)).toHaveLength(600);
  });
});

it.each([
  ["  select 1", "select"],
  ["START TRANSACTION;", "begin"],
  ["COMMIT;", "commit"],
  ["SET SESSION x = 1", "other"],
  ["", "other"],
])("the verb of %j is %s", (sql, verb) => expect(verbOf(sql)).toBe(verb));

it("tells of what had an answer and of what failed, with the database's own number and text", async () => {
  const heard: unknown[] = [];
  const before = dbWatch();
  const watch: DbWatch = {
    asked: (one) => heard.push(["asked", one.verb, one.ms >= 0]),
    failed: (one) => heard.push(["failed", one]),
    again: () => undefined,
    host: () => undefined,
  };
  setDbWatch(watch);
  expect(await watched("SELECT 1", () => Promise.resolve(7))).toBe(7);
  const fault = Object.assign(new Error("Unknown column 'x'"), { parent: { errno: 1054 } });
  await expect(watched("SELECT x", () => Promise.reject(fault))).rejects.toBe(fault);
  setDbWatch(before);
  expect(heard).toEqual([
    ["asked", "select", true],
    ["failed", { number: 1054, text: "Unknown column 'x'", sql: "SELECT x" }],
  ]);
});
