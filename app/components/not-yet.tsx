/** A place that is not built yet says honestly what will be there, with nothing fake. */
export function NotYet({ place, will, meanwhile }: { place: string; will: readonly string[]; meanwhile: string }) {
  return (
    <>
      <h1 className="mb-4 text-2xl">{place}</h1>
      <div className="panel max-w-2xl p-6">
        <p className="text-lg font-semibold">This place is not built yet.</p>
        <p className="mt-3">It will show:</p>
        <ul className="mt-2 list-disc space-y-1 pl-5">
          {will.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
        <p className="mt-4">{meanwhile}</p>
      </div>
    </>
  );
}
