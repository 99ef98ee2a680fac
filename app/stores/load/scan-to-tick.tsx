import { useState } from "react";

/** A scanner types the code and a return: the line is ticked, and the field is ready for the next. */
export function ScanToTick({
  words,
  onWords,
  onScan,
}: {
  /** Narrows the list while they are typed. */
  words: string;
  onWords: (words: string) => void;
  onScan: (code: string) => string;
}) {
  const [said, setSaid] = useState("");
  return (
    <div className="no-print max-w-sm">
      <label htmlFor="scan-to-tick" className="mb-1 block font-semibold">
        Scan what you load
      </label>
      <input
        id="scan-to-tick"
        className="field"
        autoComplete="off"
        placeholder="Scan or type"
        value={words}
        onChange={(event) => onWords(event.currentTarget.value)}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          event.preventDefault();
          const code = words.trim();
          onWords("");
          if (code) setSaid(onScan(code));
        }}
      />
      <p role="status" className="min-h-6 text-sm">
        {said}
      </p>
    </div>
  );
}
