/** What is read off a plate: a tag of ours is an address that ends with it, on a maker's plate stands what is there. */
export function tagOfCode(text: string): string {
  const ours = /\/t\/([^/?#]+)\/?(?:[?#].*)?$/.exec(text.trim());
  try {
    return ours?.[1] === undefined ? text.trim() : decodeURIComponent(ours[1]);
  } catch {
    return text.trim();
  }
}
