import { Notice } from "./notice";

/** What keeps a machine from use after work on it. */
export function NotUsable({ why }: { why: readonly string[] }) {
  if (why.length === 0) return null;
  return (
    <Notice tone="problem" title="Not to be used yet">
      {why.map((sentence) => (
        <p key={sentence} className="wrap-anywhere">
          {sentence}
        </p>
      ))}
    </Notice>
  );
}
