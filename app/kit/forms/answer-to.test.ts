import { allFaults, answerTo, typed } from "./answer-to";
import type { FormAnswer } from "./form-answer";

const answer = (more: Partial<FormAnswer<number>> = {}): FormAnswer<number> => ({
  form: "meter",
  errors: {},
  message: null,
  said: null,
  values: {},
  result: null,
  ...more,
});

describe("what of a page's answer is for one form", () => {
  it("is nothing of another form's, and nothing before there was one", () => {
    const other = answer({ form: "pause", message: "No", errors: { reason: ["Say why."] } });
    for (const none of [undefined, null, other])
      expect(answerTo(none, "meter")).toEqual({
        message: null,
        meanwhile: null,
        said: null,
        errors: {},
        values: {},
        result: null,
        refused: false,
      });
  });

  it("is its own, by the row's hidden field where several are alike", () => {
    const own = answer({ values: { hold: "h1" }, message: "Wrong password" });
    expect(answerTo(own, "meter", ["hold", "h1"]).refused).toBe(true);
    expect(answerTo(own, "meter", ["hold", "h2"]).refused).toBe(false);
    expect(answerTo(own, "meter").message).toBe("Wrong password");
  });

  it("is a no with a message or with a fault, not with something said or a result", () => {
    expect(answerTo(answer({ errors: { value: ["Too low."] } }), "meter").refused).toBe(true);
    expect(answerTo(answer({ said: "Logged" }), "meter")).toMatchObject({ refused: false, said: "Logged" });
    expect(answerTo(answer({ result: 0 }), "meter")).toMatchObject({ refused: false, result: 0 });
  });
});

describe("what was typed", () => {
  const own = answerTo(answer({ values: { name: "", list: ["a", "b"] } }), "meter");

  it("is told apart from what was not answered: an empty field is one", () => {
    expect(typed(own, "name")).toBe("");
    expect(typed(own, "other")).toBeUndefined();
    expect(typed(own, "toString")).toBeUndefined();
  });

  it("is no list", () => expect(typed(own, "list")).toBeUndefined());
});

describe("everything that is wrong", () => {
  it("is one sentence, the message first", () => {
    const own = answerTo(answer({ message: "Not saved.", errors: { a: ["One.", "Two."], b: ["Three."] } }), "meter");
    expect(allFaults(own)).toBe("Not saved. One. Two. Three.");
    expect(allFaults(answerTo(answer({ said: "Good" }), "meter"))).toBeNull();
  });
});
