import { type ReactNode, useState } from "react";

/** What is against a figure: what cannot be is refused, what is far from usual is asked about once. */
export function useFault(
  figure: number | null,
  fault: { refused: boolean; because: string } | null,
): { refused: boolean; asks: boolean; says: ReactNode } {
  const [sure, setSure] = useState<number | null>(null);
  if (!fault || (!fault.refused && sure === figure)) return { refused: false, asks: false, says: null };
  const says = (
    <div role="alert" className="mt-3 border-2 border-ink p-3">
      <p className="font-semibold">! {fault.because}</p>
      {!fault.refused && (
        <button type="button" className="btn mt-2" onClick={() => setSure(figure)}>
          It is right
        </button>
      )}
    </div>
  );
  return { refused: fault.refused, asks: !fault.refused, says };
}
