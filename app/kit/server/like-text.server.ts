/** A text as it is for LIKE: what a person types matches itself, also % and _. */
export function likeText(text: string): string {
  return text.trim().replace(/[%_\\]/g, "\\$&");
}
