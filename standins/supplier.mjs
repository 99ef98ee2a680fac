/**
 * A simulated supplier: a catalogue with prices, stock and lead times, and orders under an idempotency key. Start it with
 * `npm run standin:supplier`; the app orders there when SUPPLIER_URL is set.
 *
 *   GET  /catalogue       {"items":[{"code","name","packName","packPriceCents","stock","leadDays"},…]}
 *   POST /orders          header Idempotency-Key; {"deliverTo","lines":[{"code","packs","machine"?}]}
 *                         → 201 {"ref","expectedOn","lines":[{"code","promised"}]}; the same key again: 200 and the same answer
 *                         → 409 when the key is known with other content, 422 {"fault","lines":[{"code","fault"}]} when refused
 *   GET  /orders          every order taken, to be looked at
 *   GET  /status          what it simulates
 *   POST /behave?mode=MODE   how it answers from now on:
 *     ok          as above
 *     down        503 to everything
 *     slow        answers after SLOW_MS, having taken the order
 *     lost        takes the order, then breaks the connection without an answer
 *     late-error  takes the order, then answers 500
 *     garbage     takes the order, then answers with something else than JSON
 *     refuse      422 to every order
 *     partial     promises half of what is asked for
 */
import { readFileSync } from "node:fs";
import { createServer } from "node:http";

const PORT = Number(process.env.PORT ?? 7485);
const SLOW_MS = Number(process.env.SLOW_MS ?? 20_000);
const MODES = ["ok", "down", "slow", "lost", "late-error", "garbage", "refuse", "partial"];
const CATALOGUE = JSON.parse(readFileSync(new URL("./supplier-catalogue.json", import.meta.url), "utf8"));
const stock = new Map(CATALOGUE.map((item) => [item.code, item.stock]));
const byCode = new Map(CATALOGUE.map((item) => [item.code, item]));
const orders = new Map();
let mode = process.env.MODE ?? "ok";

const addDays = (days) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);

function take(key, body) {
  const content = JSON.stringify(body);
  const known = orders.get(key);
  if (known)
    return known.content === content
      ? { status: 200, answer: known.answer }
      : { status: 409, answer: { fault: "This key stands for another order." } };
  const faults = body.lines
    .filter((line) => !byCode.has(line.code))
    .map((line) => ({ code: line.code, fault: "Not in our catalogue." }));
  const wrong = body.lines
    .filter((line) => !Number.isInteger(line.packs) || line.packs < 1)
    .map((line) => ({ code: line.code, fault: "Packs must be whole, at least one." }));
  if (mode === "refuse") return { status: 422, answer: { fault: "Your account is on hold: call us.", lines: [] } };
  if (faults.length + wrong.length > 0)
    return { status: 422, answer: { fault: "Some lines cannot be supplied.", lines: [...faults, ...wrong] } };
  const asked = new Map();
  for (const { code, packs } of body.lines) asked.set(code, (asked.get(code) ?? 0) + packs);
  const lines = [...asked].map(([code, packs]) => {
    const promised = mode === "partial" ? Math.floor(packs / 2) : Math.min(packs, stock.get(code));
    stock.set(code, stock.get(code) - promised);
    return { code, promised };
  });
  const days = Math.max(...[...asked.keys()].map((code) => byCode.get(code).leadDays));
  const answer = { ref: `S-${String(orders.size + 1).padStart(5, "0")}`, expectedOn: addDays(days), lines };
  orders.set(key, { content, answer, deliverTo: body.deliverTo, lines: body.lines });
  return { status: 201, answer };
}

function valid(body) {
  return (
    body !== null &&
    typeof body === "object" &&
    Array.isArray(body.lines) &&
    body.lines.length > 0 &&
    body.lines.every((line) => typeof line?.code === "string")
  );
}

const server = createServer(async (request, response) => {
  const url = new URL(request.url, "http://localhost");
  const send = (status, body) => {
    response.writeHead(status, { "Content-Type": "application/json" });
    response.end(typeof body === "string" ? body : JSON.stringify(body));
  };
  if (url.pathname === "/behave" && request.method === "POST") {
    const wanted = url.searchParams.get("mode");
    if (!MODES.includes(wanted)) return send(400, { fault: `Modes: ${MODES.join(", ")}` });
    mode = wanted;
    return send(200, { mode });
  }
  if (url.pathname === "/status") return send(200, { mode, items: CATALOGUE.length, orders: orders.size });
  if (mode === "down") return send(503, { fault: "Closed for stocktaking." });
  if (url.pathname === "/catalogue")
    return send(200, { items: CATALOGUE.map((item) => ({ ...item, stock: stock.get(item.code) })) });
  if (url.pathname === "/orders" && request.method === "GET")
    return send(200, { orders: [...orders].map(([key, order]) => ({ key, ...order.answer, asked: order.lines })) });
  if (url.pathname !== "/orders" || request.method !== "POST") return send(404, { fault: "There is nothing here." });

  let text = "";
  for await (const chunk of request) {
    text += chunk;
    if (text.length > 1_000_000) return request.destroy();
  }
  const key = request.headers["idempotency-key"];
  let body = null;
  try {
    body = JSON.parse(text);
  } catch {
    // Judged below.
  }
  if (!key || !valid(body)) return send(400, { fault: "An order needs an Idempotency-Key and lines with codes." });
  const { status, answer } = take(key, body);
  if (status < 300 && mode === "lost") return request.socket.destroy();
  if (status < 300 && mode === "late-error") return send(500, { fault: "Something broke here." });
  if (status < 300 && mode === "garbage") return send(200, "<html>Welcome</html>");
  if (mode === "slow") return setTimeout(() => send(status, answer), SLOW_MS);
  send(status, answer);
});

server.listen(PORT, "127.0.0.1", () =>
  process.stdout.write(`Supplier stand-in on http://127.0.0.1:${PORT}, ${mode}\n`),
);
