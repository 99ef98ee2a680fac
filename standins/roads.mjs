/**
 * A simulated road service: minutes between positions on a few invented islands, with the ferries between them. Start it
 * with `npm run standin:roads`; the app asks it when ROADS_URL is set.
 *
 *   POST /table   {"points":[{"latitude":…,"longitude":…},…]}
 *                 → {"minutes":[[…]],"ferries":[{"from":0,"to":1,"departures":[…],"minutes":…}]}
 *                 minutes of the day for departures; `from` and `to` are places in the list
 *   GET  /status                          what it simulates
 *   POST /behave?mode=MODE                ok | down | slow | broken: how it answers from now on
 */
import { createServer } from "node:http";

const PORT = Number(process.env.PORT ?? 7490);
const SLOW_MS = Number(process.env.SLOW_MS ?? 20_000);
const KM_PER_HOUR = 45;
const DETOUR = 1.35;
/** Minutes for getting into and out of the van, parking included. */
const STOPPING = 3;

const hours = (from, to, every) =>
  Array.from({ length: Math.floor((to - from) / every) + 1 }, (_, i) => from + i * every);

/** Circles of land; what lies in none of them is the main island. */
const ISLANDS = [
  {
    name: "Tern Island",
    latitude: 38.5711,
    longitude: -28.7033,
    km: 3,
    out: hours(7 * 60 + 15, 19 * 60 + 15, 120),
    back: hours(8 * 60 + 5, 20 * 60 + 5, 120),
    crossing: 35,
  },
  {
    name: "Outer Skerry",
    latitude: 38.552,
    longitude: -28.562,
    km: 2,
    out: hours(6 * 60 + 20, 20 * 60 + 20, 60),
    back: hours(6 * 60 + 50, 20 * 60 + 50, 60),
    crossing: 20,
  },
];

let mode = process.env.MODE ?? "ok";

function km(a, b) {
  const rad = Math.PI / 180;
  const h =
    Math.sin(((b.latitude - a.latitude) * rad) / 2) ** 2 +
    Math.cos(a.latitude * rad) * Math.cos(b.latitude * rad) * Math.sin(((b.longitude - a.longitude) * rad) / 2) ** 2;
  return 2 * 6371 * Math.asin(Math.sqrt(h));
}

const islandOf = (point) => ISLANDS.find((island) => km(point, island) <= island.km) ?? null;

function table(points) {
  const minutes = points.map(() => points.map(() => 0));
  const ferries = [];
  points.forEach((a, i) => {
    points.forEach((b, k) => {
      if (i === k) return;
      const [from, to] = [islandOf(a), islandOf(b)];
      if (from === to) {
        minutes[i][k] = Math.ceil(((km(a, b) * DETOUR) / KM_PER_HOUR) * 60 + STOPPING);
        return;
      }
      // By the main island: out of one, into the other; on the way between two islands only the second boat is waited for.
      const first = from ? from.crossing : 0;
      const second = to ? to.crossing : 0;
      const way = first + second + STOPPING;
      minutes[i][k] = way;
      ferries.push({ from: i, to: k, departures: from ? from.back : to.out, minutes: way });
    });
  });
  return { minutes, ferries };
}

const server = createServer((request, response) => {
  const url = new URL(request.url, "http://roads");
  const json = (status, body) => {
    response.writeHead(status, { "content-type": "application/json" });
    response.end(JSON.stringify(body));
  };
  if (url.pathname === "/behave" && request.method === "POST") {
    mode = url.searchParams.get("mode") ?? "ok";
    return json(200, { mode });
  }
  if (url.pathname === "/status") return json(200, { mode, islands: ISLANDS.map((island) => island.name) });
  if (url.pathname !== "/table" || request.method !== "POST")
    return json(404, { error: "Known are POST /table, GET /status and POST /behave." });
  if (mode === "down") return json(503, { error: "The road service is closed." });
  if (mode === "broken") {
    response.writeHead(200, { "content-type": "application/json" });
    return response.end('{"minutes":[[0,');
  }
  let text = "";
  request.on("data", (chunk) => {
    text += chunk;
    if (text.length > 100_000) request.destroy();
  });
  request.on("end", () => {
    const answer = () => {
      try {
        const { points } = JSON.parse(text);
        json(200, table(points));
      } catch {
        json(400, { error: "Send points with latitude and longitude." });
      }
    };
    if (mode === "slow") setTimeout(answer, SLOW_MS).unref();
    else answer();
  });
});

server.listen(PORT, "127.0.0.1", () =>
  process.stdout.write(`Road service stand-in on http://127.0.0.1:${server.address().port}\n`),
);
for (const signal of ["SIGTERM", "SIGINT"])
  process.on(signal, () => server.close(() => process.exit(0)) && server.closeAllConnections());
