/** A text field of a form, cut to a length; "" when it is missing or a file. */
export function textOf(formData: FormData, name: string, maxLength = 500): string {
  const value = formData.get(name);
  return typeof value === "string" ? value.slice(0, maxLength) : "";
}
