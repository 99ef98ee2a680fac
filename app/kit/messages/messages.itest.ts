import { type ChildProcess, spawn } from "node:child_process";
import { join } from "node:path";

import { must } from "@core";
import { getDb } from "@db";
import { v7 as uuidv7 } from "uuid";

import { closeDatabase, freshDatabase } from "~/testing/database";

import {
  messagesAbout,
  type NewMessage,
  type Outgoing,
  queueMessage,
  sendAgain,
  sendMessages,
} from "./messages.server";

beforeAll(freshDatabase);
beforeEach(async () => {
  await getDb().run("DELETE FROM messages");
  await getDb().run("DELETE FROM message_files");
});
afterAll(closeDatabase);

const NOW = new Date("2026-06-10T07:00:00Z");
const later = (minutes: number): Date => new Date(NOW.getTime() + minutes * 60_000);
const SITE = uuidv7();
const ABOUT = { kind: "before" as const, onDay: "2026-06-11", siteId: [SITE] };
const queue = (more: Partial<NewMessage> = {}, now = NOW): Promise<string | null> =>
  getDb().transact((tx) =>
    queueMessage(
      {
        kind: "before",
        to: { name: "Ana Vale", address: "ana@school.example" },
        subject: "We come",
        body: "Good day",
        siteId: SITE,
        onDay: "2026-06-11",
        by: null,
        ...more,
      },
      now,
      tx,
    ),
  );
const states = async () => (await messagesAbout({ siteId: [SITE], onDay: "2026-06-11" })).map((one) => one.state);
const refusing = (responseCode?: number) => () =>
  Promise.reject(Object.assign(new Error("no"), responseCode === undefined ? {} : { responseCode }));

describe("messages", () => {
  it("are kept and sent once, with their files", async () => {
    const sent: Outgoing[] = [];
    const id = await queue({ files: [{ name: "record.pdf", type: "application/pdf", bytes: Buffer.from("pdf") }] });
    const post = (one: Outgoing) => Promise.resolve(void sent.push(one));
    expect(await sendMessages("a", NOW, { post })).toBe(1);
    expect(await sendMessages("a", later(1), { post })).toBe(0);
    expect(sent).toEqual([
      {
        id,
        to: { name: "Ana Vale", address: "ana@school.example" },
        subject: "We come",
        text: "Good day",
        files: [{ filename: "record.pdf", contentType: "application/pdf", content: Buffer.from("pdf") }],
      },
    ]);
    expect(await states()).toEqual(["sent"]);
  });

  it("are sent by one process of two at the same time", async () => {
    let sent = 0;
    const post = async () => {
      await new Promise((resolve) => setTimeout(resolve, 60));
      sent++;
    };
    for (let i = 0; i < 4; i++) await queue();
    await Promise.all([sendMessages("a", NOW, { post }), sendMessages("b", NOW, { post })]);
    await sendMessages("a", NOW, { post });
    expect(sent).toBe(4);
    expect(await states()).toEqual(["sent", "sent", "sent", "sent"]);
  });

  it("go with what they belong to, or not at all", async () => {
    await expect(
      getDb().transact(async (tx) => {
        await queueMessage(
          {
            kind: "before",
            to: { name: "", address: "a@b.example" },
            subject: "",
            body: "",
            siteId: SITE,
            onDay: "2026-06-11",
            by: null,
          },
          NOW,
          tx,
        );
        throw new Error("broken off");
      }),
    ).rejects.toThrow("broken off");
    expect(await states()).toEqual([]);
  });

  it("of one key there is one", async () => {
    expect(await queue({ onceKey: "digest 2026-06-10" })).not.toBeNull();
    expect(await queue({ onceKey: "digest 2026-06-10" })).toBeNull();
  });

  it("that a mail server refuses for good are given up with its words, and can be tried again", async () => {
    const id = must(await queue());
    expect(await sendMessages("a", NOW, { post: refusing(550) })).toBe(0);
    const [failed] = await messagesAbout({ siteId: [SITE], onDay: "2026-06-11" });
    expect(failed).toMatchObject({ state: "failed", fault: "The mail server refuses it: no" });
    await sendAgain(id, ABOUT, later(1));
    expect(await sendMessages("a", later(1), { post: () => Promise.resolve() })).toBe(1);
    expect(await states()).toEqual(["sent"]);
    // What was sent is not sent again.
    await expect(sendAgain(id, ABOUT, later(2))).rejects.toThrow(/sent meanwhile/);
    expect(await sendMessages("a", later(2), { post: () => Promise.resolve() })).toBe(0);
  });

  it("are tried again by nobody who is on another page than theirs", async () => {
    const id = must(await queue());
    await expect(sendAgain(id, { ...ABOUT, siteId: [uuidv7()] }, NOW)).rejects.toThrow(/not here/);
    await expect(sendAgain(id, { ...ABOUT, kind: "digest" }, NOW)).rejects.toThrow(/not here/);
    await expect(sendAgain(id, { sheetId: uuidv7(), kind: "record" }, NOW)).rejects.toThrow(/not here/);
  });

  it("that fail otherwise are tried again later, less and less often, and then given up", async () => {
    await queue();
    const tried: number[] = [];
    for (let minute = 0; minute < 600; minute++) {
      const post = () => {
        tried.push(minute);
        return Promise.reject(new Error("away"));
      };
      await sendMessages("a", later(minute), { post });
    }
    expect(tried).toEqual([0, 1, 3, 8, 23, 83, 323]);
    expect(await states()).toEqual(["failed"]);
  });

  it("wait and say so while no mail server is connected", async () => {
    await queue();
    expect(await sendMessages("a", NOW)).toBe(0);
    const [waiting] = await messagesAbout({ siteId: [SITE], onDay: "2026-06-11" });
    expect(waiting).toMatchObject({ state: "waiting", fault: expect.stringContaining("No mail server is connected") });
  });
});

describe("over SMTP", () => {
  const url = "http://127.0.0.1:7466";
  let server: ChildProcess;
  const behave = (mode: string): Promise<unknown> => fetch(`${url}/behave?mode=${mode}`, { method: "POST" });
  const taken = async () => (await (await fetch(`${url}/messages`)).json()) as Record<string, unknown>[];

  beforeAll(async () => {
    process.env.SMTP_URL = "smtp://127.0.0.1:7467";
    process.env.MAIL_FROM = "Harbour Service <service@harbour.example>";
    server = spawn(process.execPath, [join(process.cwd(), "standins/post.mjs")], {
      stdio: "ignore",
      env: { ...process.env, PORT: "7466", SMTP_PORT: "7467" },
    });
    for (let i = 0; i < 100; i++) {
      if (
        await fetch(url).then(
          () => true,
          () => false,
        )
      )
        return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  });
  afterAll(() => {
    server.kill("SIGTERM");
    delete process.env.SMTP_URL;
    delete process.env.MAIL_FROM;
  });

  it("a message arrives as it was written, whatever its names have in them", async () => {
    const id = await queue({
      to: { name: 'Ana "Vale", (kitchen)\r\nBcc: all@else.example', address: "ana@school.example" },
      subject: "Escola São João: we come\r\nX-Other: 1",
      body: "Line one\n.\nLine three – 45 min",
      files: [{ name: "record.pdf", type: "application/pdf", bytes: Buffer.alloc(100_000, 7) }],
    });
    expect(await sendMessages("a", NOW)).toBe(1);
    const [got, ...others] = await taken();
    expect(others).toEqual([]);
    expect(got).toMatchObject({
      from: expect.stringContaining("service@harbour.example"),
      messageId: `<${id}@humble-hound>`,
      subject: expect.stringContaining("Escola São João: we come"),
      text: expect.stringContaining("Line one\n.\nLine three – 45 min"),
      files: [{ name: "record.pdf", type: "application/pdf", bytes: 100_000 }],
    });
    expect(must(got)["to"]).toContain("ana@school.example");
    expect(String(must(got)["to"])).not.toMatch(/, .*all@else/);
  });

  it.each([
    ["refuse", "failed"],
    ["busy", "waiting"],
    ["lost", "waiting"],
    ["down", "waiting"],
  ])("a mail server that is told to %s leaves it %s", async (mode, state) => {
    await behave(mode);
    await queue();
    expect(await sendMessages("a", NOW)).toBe(0);
    await behave("ok");
    expect(await states()).toEqual([state]);
  });
});
