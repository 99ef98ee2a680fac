import { inPercent } from "~/kit/in-percent";
import { Table } from "~/ui/table";

/** Causes by how often they were found, with what they come to together: a chart and its table in one. */
export function CausesFound({
  causes,
  family,
}: {
  causes: readonly { id: string; name: string; n: number; together: number }[];
  family: string;
}) {
  const [most] = causes;
  if (!most) return <p className="panel p-4">None found with the guide yet. Chances are the typical ones.</p>;
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
          {causes.map(({ id, name, n, together }) => (
            <tr key={id}>
              <td>{name}</td>
              <td className="figure">{n}</td>
              <td className="w-40">
                <span aria-hidden className="block h-3 bg-tan-fill" style={{ width: `${(n / most.n) * 100}%` }} />
              </td>
              <td className="figure">{inPercent(together)}</td>
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
