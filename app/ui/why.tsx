/** The "why" behind a computed figure: rule, inputs and arithmetic, opened on demand. */
export function Why({ because, summary = "Why?" }: { because: readonly string[]; summary?: string }) {
  return (
    <details className="group">
      <summary className="inline-block min-h-8 text-sm underline decoration-dotted underline-offset-4">
        {summary}
      </summary>
      <ul className="mt-2 list-disc space-y-1 pl-5 text-sm text-ink-soft">
        {because.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </details>
  );
}
