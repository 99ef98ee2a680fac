import { data, redirect, type RouterContextProvider } from "react-router";
import { type AnyObjectSchema, type InferType, object, ValidationError } from "yup";

import type { Actor } from "~/kit/actor";
import { type FormAnswer, taken } from "~/kit/forms/form-answer";
import { metaOf, readFields, withoutSecrets } from "~/kit/forms/read-fields";
import { Refusal } from "~/kit/refusal";

import { asRefusal } from "./database-refusal.server";
import { ChangedMeanwhile } from "./meanwhile.server";
import { type KeptAnswer, once, submissionKey } from "./once.server";
import { readForm } from "./read-request.server";
import { actorContext } from "./request-context";

/** What a form's work comes to: a page to go to, words to say, a result to show, or nothing to add. */
type Outcome = Response | string | { result: unknown; said?: string } | undefined;
type ResultIn<Out> = Out extends { result: infer Result } ? Result : never;

interface Form<Result> {
  schema: AnyObjectSchema;
  /** Words for those who may not, when only leads may. */
  leadsOnly: string | null;
  // The schema that made the value is the one beside it.
  work: (value: never, who: Actor, now: Date) => Promise<Outcome>;
  /** Never there: carries the type of what comes out. */
  readonly out?: Result;
}

/** A form of a page: what it may send, and what is done with it by whom. */
export function form<Schema extends AnyObjectSchema, Out extends Outcome | void>(
  schema: Schema,
  work: (value: InferType<Schema>, who: Actor, now: Date) => Promise<Out>,
): Form<ResultIn<Out>> {
  return { schema, work: work as Form<never>["work"], leadsOnly: null };
}

/** A form that only a lead may send; others read the words. */
export function leadForm<Schema extends AnyObjectSchema, Out extends Outcome | void>(
  words: string,
  schema: Schema,
  work: (value: InferType<Schema>, who: Actor, now: Date) => Promise<Out>,
): Form<ResultIn<Out>> {
  return { ...form(schema, work), leadsOnly: words };
}

/** A button alone: nothing is sent with it. */
export const NOTHING = object({});

interface ActionArgs {
  request: Request;
  context: Readonly<RouterContextProvider>;
}

/** Stands in for who is signed in on pages that are open to everybody. */
const NOBODY: Actor = { id: "", name: "", role: "technician", authorisations: [] };

type ResultOf<Forms> = { [Name in keyof Forms]: Forms[Name] extends Form<infer Result> ? Result : never }[keyof Forms];
type Answered<Result> = ReturnType<typeof data<FormAnswer<Result>>>;

/**
 * The one way of a page's forms: reads the request within limits, finds the form that its `intent` names (one
 * without is the first), checks it by its schema, does the work and answers. An expected "no" is told beside the field whose
 * name is its code, else above the form; nothing that was typed is lost to an error page.
 */
export async function formAction<Forms extends Record<string, Form<unknown>>>(
  { request, context }: ActionArgs,
  forms: Forms,
  /** Refuses those who may send none of the page's forms. */
  allow?: (who: Actor) => void,
): Promise<Response | Answered<ResultOf<Forms>>> {
  let name = Object.keys(forms)[0] ?? "";
  const refuse = (answer: Partial<FormAnswer<ResultOf<Forms>>>, status: number) =>
    data({ ...taken<ResultOf<Forms>>(name, null), ...answer }, { status });
  let schema: AnyObjectSchema = NOTHING;
  let values = {};
  try {
    const sent = await readForm(request, fileLimits(forms));
    const intent = sent.get("intent");
    if (typeof intent === "string" && Object.hasOwn(forms, intent)) name = intent;
    else if (intent !== null) throw new Refusal(422, "intent", "This form is not known. Load the page again.");
    const chosen = forms[name];
    if (!chosen) throw new Refusal(422, "intent", "This form is not known. Load the page again.");
    schema = chosen.schema;
    const fields = readFields(sent, schema);
    values = withoutSecrets(fields.values, schema);
    const who = context.get(actorContext) ?? NOBODY;
    allow?.(who);
    if (chosen.leadsOnly !== null && who.role !== "lead") throw new Refusal(403, "leads-only", chosen.leadsOnly);
    const value: unknown = schema.validateSync(
      { ...fields.values, ...fields.files },
      { abortEarly: false, stripUnknown: true },
    );
    const work = () => chosen.work(value as never, who, new Date());
    const outcome = await onceOnly(request, schema, who, work);
    if (outcome instanceof Response) return outcome;
    if (typeof outcome === "object")
      return data({ ...taken(name, outcome.said ?? null, outcome.result as ResultOf<Forms>), values });
    return data(taken<ResultOf<Forms>>(name, outcome ?? null));
  } catch (error) {
    if (error instanceof ValidationError) return refuse({ values, ...faultsOf(error, schema) }, 422);
    const refusal = asRefusal(error);
    if (!refusal) throw error;
    const meanwhile = refusal instanceof ChangedMeanwhile ? refusal.meanwhile : null;
    const answer = refuse({ values, ...wordsOf(refusal, schema), meanwhile }, refusal.status);
    // The rest of an oversized body is not read, so the connection cannot be used again.
    return refusal.status === 413 ? data(answer.data, { status: 413, headers: { Connection: "close" } }) : answer;
  }
}

const DONE_BEFORE = "This was done already, when it was sent the first time.";

/** What with a password in it signs in, or shows something once: never kept, never answered again. */
const hasSecrets = (schema: AnyObjectSchema): boolean =>
  Object.keys(schema.fields).some((name) => metaOf(schema, name).secret);

/** The work's outcome, or what was said the first time when it is sent again. */
async function onceOnly(
  request: Request,
  schema: AnyObjectSchema,
  who: Actor,
  work: () => Promise<Outcome>,
): Promise<Outcome> {
  const key = hasSecrets(schema) ? null : submissionKey(request);
  if (!key) return work();
  const done = await once({ key, personId: who.id || null, now: new Date() }, work, keptOf);
  if (!("before" in done)) return done.outcome;
  return done.answer?.redirect ? redirect(done.answer.redirect) : (done.answer?.said ?? DONE_BEFORE);
}

function keptOf(outcome: Outcome): KeptAnswer | null {
  if (outcome instanceof Response) return { said: null, redirect: outcome.headers.get("Location") };
  return { said: (typeof outcome === "object" ? outcome.said : outcome) ?? null, redirect: null };
}

/** A refusal whose code is a field that the form shows, `lines[2].lot` for one, stands beside that field. */
function wordsOf(refusal: Refusal, schema: AnyObjectSchema): Pick<FormAnswer, "errors" | "message"> {
  const field = /^[^[.]*/.exec(refusal.code)?.[0] ?? "";
  const beside = Object.hasOwn(schema.fields, field) && !metaOf(schema, field).hidden;
  return beside
    ? { errors: { [refusal.code]: [refusal.message] }, message: null }
    : { errors: {}, message: refusal.message };
}

function faultsOf(error: ValidationError, schema: AnyObjectSchema): Pick<FormAnswer, "errors" | "message"> {
  const errors: Record<string, string[]> = {};
  const general: string[] = [];
  for (const one of error.inner.length > 0 ? error.inner : [error]) {
    const path = one.path ?? "";
    if (path === "" || metaOf(schema, path).hidden) general.push(one.message);
    // The first fault of a field is the one to mend first.
    else errors[path] ??= [one.message];
  }
  return { errors, message: general.length > 0 ? [...new Set(general)].join(" ") : null };
}

/** The largest file that any form of the page takes. */
function fileLimits(forms: Record<string, Form<unknown>>): { maxFileBytes?: number } {
  const sizes = Object.values(forms).flatMap(({ schema }) =>
    Object.keys(schema.fields).flatMap((name) => metaOf(schema, name).maxBytes ?? []),
  );
  return sizes.length > 0 ? { maxFileBytes: Math.max(...sizes) } : {};
}
