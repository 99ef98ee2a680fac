import { must } from "@core";
/** Where the sites lie to each other and how the round goes, drawn without map tiles: north is up, distances to scale. */
export function DayMap({ depot, stops }: { depot: MapPoint; stops: readonly MapPoint[] }) {
  const points = [depot, ...stops].filter(
    (point) => point.latitude !== null && point.longitude !== null,
  ) as (MapPoint & {
    latitude: number;
    longitude: number;
  })[];
  if (points.length < 2) return null;
  const middle = points.reduce((sum, point) => sum + point.latitude, 0) / points.length;
  const shrink = Math.cos((middle * Math.PI) / 180);
  const xs = points.map((point) => point.longitude * shrink);
  const ys = points.map((point) => -point.latitude);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const size = Math.max(Math.max(...xs) - left, Math.max(...ys) - top, 1e-4);
  const [width, height] = [320, Math.max(120, Math.min(280, (280 * (Math.max(...ys) - top)) / size + 60))];
  const scale = Math.min((width - 60) / size, (height - 44) / Math.max(Math.max(...ys) - top, size / 4));
  const at = (i: number): [number, number] => [30 + (must(xs[i]) - left) * scale, 22 + (must(ys[i]) - top) * scale];
  const km = (size * 111.2).toFixed(size * 111.2 < 10 ? 1 : 0);
  const path = [...points.map((_, i) => at(i)), at(0)]
    .map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`)
    .join(" ");
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={`The round drawn: ${points.map((point) => point.name).join(", then ")}, and back`}
        className="w-full max-w-sm border border-line bg-sunken"
      >
        <path d={path} fill="none" stroke="var(--ink-soft)" strokeWidth="1.5" strokeDasharray="5 3" />
        {points.map((point, i) => {
          const [x, y] = at(i);
          return (
            <g key={point.id}>
              {i === 0 ? (
                <rect x={x - 6} y={y - 6} width="12" height="12" fill="var(--ink)" />
              ) : (
                <circle cx={x} cy={y} r="9" fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />
              )}
              {i > 0 && (
                <text x={x} y={y + 4} textAnchor="middle" fontSize="11" fontWeight="700" fill="var(--ink)">
                  {i}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <figcaption className="text-xs text-ink-soft">
        North is up; about {km} km across. The square is where the round begins and ends.
      </figcaption>
    </figure>
  );
}

interface MapPoint {
  id: string;
  name: string;
  latitude: number | null;
  longitude: number | null;
}
