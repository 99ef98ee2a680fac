/** Whether what somebody types is in what a symptom is called, word by word, in any order. */
export function fitsWords(typed: string, called: readonly string[]): boolean {
  const all = plain(called.join(" "));
  return plain(typed)
    .split(" ")
    .every((word) => all.includes(word));
}

const plain = (text: string): string =>
  text
    .normalize("NFD")
    .replace(/\p{Diacritic}/gu, "")
    .toLowerCase()
    .trim()
    .replace(/\s+/g, " ");
