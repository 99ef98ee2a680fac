import { Table } from "~/ui/table";

/** Causes by how often they were found, with what they come to together: a chart and its table in one. */
export function CausesFound({
  causes,
  family,
}: {
  causes: readonly { id: string; name: string; n: number }[];
  family: string;
}) {
  const all = causes.reduce((sum, one) => sum + one.n, 0);
  if (all === 0) return <p className="panel p-4">None found with the guide yet. Chances are the typical ones.</p>;
  const most = causes[0]?.n ?? 1;
  const together = causes.map((_, i) => causes.slice(0, i + 1).reduce((sum, one) => sum + one.n, 0));
  return (
    <div className="panel p-3">
      <Table caption="Causes by how often they were found">
        <thead>
          <tr>
            <th scope="col">Cause</th>
            <th scope="col">Found</th>
            <th scope="col">
              <span className="sr-only">Drawn</span>
            </th>
            <th scope="col">With those above</th>
          </tr>
        </thead>
        <tbody>
          {causes.map(({ id, name, n }, i) => (
            <tr key={id}>
              <td>{name}</td>
              <td className="figure">{n}</td>
              <td className="w-40">
                <span aria-hidden className="block h-3 bg-tan-fill" style={{ width: `${(n / most) * 100}%` }} />
              </td>
              <td className="figure">{Math.round(((together[i] ?? 0) / all) * 100)} %</td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="mt-2">
        <a href={`/machines/faults/${family}/causes.csv`} className="btn">
          As CSV
        </a>
      </p>
    </div>
  );
}
