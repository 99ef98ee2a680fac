import fc from "fast-check";
import { array, boolean, mixed, object, string } from "yup";

import { metaOf, readFields, withoutSecrets } from "./read-fields";

const schema = object({
  name: string(),
  ids: array(string()),
  contacts: array(object({ name: string(), phone: string() })),
  place: object({ street: string() }),
  agreed: boolean(),
  file: mixed<File>().meta({ maxBytes: 10 }),
  password: string().meta({ secret: true }),
  machineId: string().meta({ hidden: true }),
});
const read = (...entries: [string, FormDataEntryValue][]) => readFields(entries, schema);

it("leaves out what was left empty, so that optional fields need no exception", () => {
  expect(read(["name", ""], ["ids", ""], ["agreed", "on"]).values).toEqual({ agreed: "on" });
});

it("nests rows and groups as their names say", () => {
  expect(
    read(
      ["contacts[1].name", "Kim"],
      ["contacts[0].name", "Ada"],
      ["contacts[0].phone", "12"],
      ["place.street", "Pier 1"],
    ).values,
  ).toEqual({ contacts: [{ name: "Ada", phone: "12" }, { name: "Kim" }], place: { street: "Pier 1" } });
});

it("takes several of one name for a list, and refuses them for anything else", () => {
  expect(read(["ids", "a"], ["ids", "b"], ["ids", "c"]).values).toEqual({ ids: ["a", "b", "c"] });
  expect(() => read(["name", "a"], ["name", "b"])).toThrow(/came twice/);
  expect(() => read(["contacts[0].name", "a"], ["contacts[0].name", "b"])).toThrow(/came twice/);
});

it("does not look at what the form does not have", () => {
  expect(read(["role", "lead"], ["name", "x"], ["intent", "save"])).toEqual({ values: { name: "x" }, files: {} });
});

it.each(["__proto__", "constructor", "__proto__.polluted", "name[0]__proto__", "contacts[0].__proto__", "toString"])(
  "builds nothing from the name %s",
  (name) => {
    const { values } = read([name, "yes"]);
    expect(Object.keys(values)).toEqual([]);
    expect(({} as Record<string, unknown>).polluted).toBeUndefined();
    expect(Object.getPrototypeOf(values)).toBe(Object.prototype);
  },
);

it("makes no list of a length that a name alone asks for", () => {
  expect(() => read(["contacts[500].name", "x"])).toThrow(/at most 500 rows/);
  expect(read(["contacts[999999999].name", "x"]).values).toEqual({});
});

it("takes a chosen file, and an empty field for a file as nothing", () => {
  const chosen = new File(["x"], "a.csv");
  const empty = new File([], "empty.csv");
  expect(read(["file", chosen]).files).toEqual({ file: chosen });
  expect(read(["file", new File([], "")]).files).toEqual({});
  // Chosen, though nothing is in it: what is done with it says so.
  expect(read(["file", empty]).files).toEqual({ file: empty });
});

it("never sends a password back", () => {
  const { values } = read(["name", "kim"], ["password", "harbour"]);
  expect(withoutSecrets(values, schema)).toEqual({ name: "kim" });
});

it("knows what a schema says beside a field's type, for rows too", () => {
  expect(metaOf(schema, "machineId")).toEqual({ hidden: true });
  expect(metaOf(schema, "contacts[0].name")).toEqual({});
  expect(metaOf(schema, "file").maxBytes).toBe(10);
  expect(metaOf(schema, "toString")).toEqual({});
});

it("takes any names and texts without falling over", () => {
  const name = fc.oneof(
    fc.string(),
    fc.constantFrom("name", "ids", "contacts", "place"),
    fc
      .tuple(fc.constantFrom("contacts", "place", "ids", "name"), fc.constantFrom("[0]", "[3].name", ".street", ".a.b"))
      .map((parts) => parts.join("")),
  );
  fc.assert(
    fc.property(fc.array(fc.tuple(name, fc.string()), { maxLength: 30 }), (entries) => {
      try {
        const { values } = readFields(entries, schema);
        for (const key of Object.keys(values)) expect(Object.keys(schema.fields)).toContain(key);
      } catch (error) {
        expect(error).toMatchObject({ code: "sent-twice" });
      }
    }),
  );
});
