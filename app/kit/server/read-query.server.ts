import { type AnyObjectSchema, type InferType, ValidationError } from "yup";

/** Longest address that any page makes. */
const LONGEST = 8000;

/**
 * What an address asks for, by its schema. Empty parts are not given; of one that stands twice the first counts.
 *
 * @throws Response 400 in words for the person: an address that cannot be right was not made by a page
 */
export function readQuery<Schema extends AnyObjectSchema>(request: Request, schema: Schema): InferType<Schema> {
  const { searchParams, search } = new URL(request.url);
  if (search.length > LONGEST) throw new Response("This address is longer than any page makes.", { status: 414 });
  const given: Record<string, string> = {};
  for (const name of Object.keys(schema.fields)) {
    const value = searchParams.get(name);
    if (value !== null && value !== "") given[name] = value;
  }
  try {
    return schema.validateSync(given, { stripUnknown: true });
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error;
    throw new Response(`This address is not right (“${error.path ?? ""}”): ${error.message}`, { status: 400 });
  }
}
