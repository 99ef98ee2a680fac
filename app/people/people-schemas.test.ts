import { faultOf, sent } from "~/testing/sent";

import { addPersonSchema, grantSchema, passwordSchema, personSchema, signInSchema } from "./people-schemas";

const ID = "0198f0aa-1111-7222-8333-444455556666";
const LONG = "a harbour in the fog";

it("signing in needs a name and a password, the password exactly as typed", () => {
  expect(sent(signInSchema, { signIn: " mira ", password: "  two spaces  " }).value).toEqual({
    signIn: "mira",
    password: "  two spaces  ",
  });
  expect(sent(signInSchema, {}).faults).toEqual({
    signIn: "Type your sign-in name.",
    password: "Type your password.",
  });
  expect(sent(signInSchema, { signIn: "x", password: "p".repeat(201) }).faults.password).toMatch(/longer than any/);
});

describe("a new password", () => {
  const right = { current: "old one", password: LONG, again: LONG };

  it("is typed twice alike, ten characters at least", () => {
    expect(sent(passwordSchema, right).faults).toEqual({});
    expect(faultOf(passwordSchema, right, "again", `${LONG}!`)).toBe(
      "The two are not the same. Type the new one again.",
    );
    expect(sent(passwordSchema, { ...right, password: "123456789", again: "123456789" }).faults).toEqual({
      password: "Use at least 10 characters; a few words make a good one.",
    });
    expect(sent(passwordSchema, { ...right, password: "1234567890", again: "1234567890" }).faults).toEqual({});
    expect(faultOf(passwordSchema, right, "current", "")).toBe("Type your present password.");
  });
});

describe("a person", () => {
  const right = { name: "Mira Holt", signIn: "mira.holt", role: "technician", password: LONG };

  it.each(["a", "mira holt", "мира", "x".repeat(121), "mira/holt"])("cannot sign in as %j", (signIn) => {
    expect(faultOf(addPersonSchema, right, "signIn", signIn)).toBeDefined();
  });

  it.each(["mira", "m.h", "mira@harbour.example", "A_1-2"])("can sign in as %j", (signIn) => {
    expect(faultOf(addPersonSchema, right, "signIn", signIn)).toBeUndefined();
  });

  it("is a technician or a lead and nothing else", () => {
    expect(faultOf(addPersonSchema, right, "role", "lead")).toBeUndefined();
    for (const role of ["owner", "", "LEAD"])
      expect(faultOf(addPersonSchema, right, "role", role)).toBe("Choose a role.");
  });

  it("is named by the page, not by the sender", () => {
    expect(sent(personSchema, { person: "1 OR 1=1" }).faults.person).toMatch(/Load the page again/);
  });

  it("is authorised for something, to a day or without end", () => {
    const granted = { person: ID, kind: "licensed-refrigeration" };
    expect(sent(grantSchema, granted).value).toEqual(granted);
    expect(sent(grantSchema, { ...granted, expiresOn: "2027-06-31" }).faults).toEqual({
      expiresOn: "Choose a day, or leave it empty.",
    });
    expect(sent(grantSchema, { person: ID }).faults).toEqual({ kind: "Name the authorisation." });
  });
});
