import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";

/** Where statements may stand, and which. Read from the sources: the rule is about how they are written. */
const files = execFileSync("git", ["ls-files", "-co", "--exclude-standard", "app/*.ts", "app/*.tsx", "server/*.ts"], {
  encoding: "utf8",
})
  .split("\n")
  .filter((file) => /\.tsx?$/.test(file) && !/\.(itest|test)\.tsx?$|^app\/testing\//.test(file))
  .map((file) => ({ file, source: readFileSync(file, "utf8") }));

const STATEMENT =
  /"(SELECT|INSERT|UPDATE|DELETE|REPLACE)\s[^"]*"|`\s*(SELECT|INSERT|UPDATE|DELETE|REPLACE)\s(?:\\`|[^`])*`/g;

/**
 * What models say as well: columns of one table by plain conditions. A join, a sum, an index by name, arithmetic in place, a
 * tuple, an alternative, a condition put together from pieces is none of it.
 */
const PLAIN =
  /^(SELECT [\w, .()*]+ FROM \w+( WHERE [\w .:=<>'()]+)?( ORDER BY [\w, .]+)?( LIMIT \w+)?( FOR UPDATE)?|INSERT INTO \w+ \([\w, ]+\) VALUES \([\w, :']+\)|UPDATE \w+ SET [\w ,=:']+ WHERE [\w .:=<>'()]+|DELETE FROM \w+( WHERE [\w .:=<>'()]+)?)$/;
const RICH =
  / OR |DISTINCT|OVER \(|COUNT\(\w|SUM\(|MAX\(|MIN\(|NULLIF|EXISTS|LIKE|INTERVAL|\bIF\(|DATE_FORMAT|FIELD\(|JSON_|\w+ = \w+ [-+]|\(\w+, \w+\) [<>]/;

it("statements stand in *.sql.ts and nowhere else", () => {
  const elsewhere = files
    .filter(({ file }) => !file.endsWith(".sql.ts"))
    .flatMap(({ file, source }) => [...source.matchAll(STATEMENT)].map((found) => `${file}: ${found[0].slice(0, 80)}`));
  expect(elsewhere).toEqual([]);
});

it("plain statements on one table go through its model", () => {
  const plain = files
    .filter(({ file }) => file.endsWith(".sql.ts"))
    .flatMap(({ file, source }) =>
      [...source.matchAll(STATEMENT)]
        .map((found) => found[0].slice(1, -1).replace(/\s+/g, " ").replaceAll("\\`", "`").trim())
        .filter((statement) => PLAIN.test(statement.replaceAll("`", "")) && !RICH.test(statement))
        .map((statement) => `${file}: ${statement.slice(0, 120)}`),
    );
  expect(plain).toEqual([]);
});
