import { chromium } from "@playwright/test";
const args = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args });
const phone = process.env.PHONE === "1";
const dark = process.env.DARK === "1";
const ctx = await b.newContext({
  viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
  colorScheme: dark ? "dark" : "light",
  baseURL: process.env.BASE ?? "http://localhost:7400",
});
const p = await ctx.newPage();
p.on("console", (m) => {
  if (m.type() === "error") console.log("console:", m.text().slice(0, 300));
});
p.on("pageerror", (e) => console.log("pageerror:", e.message.slice(0, 300)));
await p.goto("/sign-in");
const user = process.env.AS ?? "mira";
if (process.argv[2] !== "anon") {
  await p.fill("input[name=signIn]", user);
  await p.fill("input[name=password]", "harbour-demo-1");
  await p.click("button:has-text('Sign in')");
  await p.waitForURL("**/round");
}
const mod = await import(process.argv[3] ?? "data:text/javascript,export default async()=>{}");
await mod.default(p, process.argv.slice(4));
await b.close();
