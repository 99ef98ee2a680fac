/** The words of a text for a full-text index, all of them and each by its beginning. */
export function beginningsOf(text: string): string {
  return (text.match(/[\p{L}\p{N}]+/gu) ?? []).map((word) => `+${word}*`).join(" ");
}

/** A text as it is for LIKE: what a person types matches itself, also % and _. */
export function likeText(text: string): string {
  return text.trim().replace(/[%_\\]/g, "\\$&");
}
