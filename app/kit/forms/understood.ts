import type { TestFunction } from "yup";

/** A test of a text by its own reader: what the reader throws is said beside the field. */
export function understood(read: (text: string) => unknown): TestFunction<string | undefined> {
  return (value, context) => {
    try {
      read(value ?? "");
      return true;
    } catch (error) {
      return context.createError({ message: error instanceof Error ? error.message : String(error) });
    }
  };
}
