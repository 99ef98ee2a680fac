/**
 * A simulated mail server: takes every message and keeps it in memory, sends nothing on. Start it with `npm run standin:post`;
 * the app sends there when SMTP_URL is set.
 *
 *   SMTP on SMTP_PORT (7475), without a password
 *   GET    /messages       [{"from","to","subject","text","messageId","files":[{"name","type","bytes"}]},…], the newest first
 *   GET    /               the same to be read by a person
 *   DELETE /messages       forgets them
 *   POST   /behave?mode=MODE   how it answers from now on:
 *     ok       takes every message
 *     down     ends every connection
 *     refuse   550 to every recipient
 *     busy     451 to every message
 *     lost     takes the message, then breaks the connection without an answer
 */
import { createServer } from "node:http";

import { simpleParser } from "mailparser";
import { SMTPServer } from "smtp-server";

const PORT = Number(process.env.PORT ?? 7470);
const SMTP_PORT = Number(process.env.SMTP_PORT ?? 7475);
const MODES = ["ok", "down", "refuse", "busy", "lost"];
const MOST = 500;
const messages = [];
let mode = process.env.MODE ?? "ok";

const fault = (code, words) => Object.assign(new Error(words), { responseCode: code });

const smtp = new SMTPServer({
  authOptional: true,
  disabledCommands: ["AUTH", "STARTTLS"],
  logger: false,
  onConnect: (_session, done) => done(mode === "down" ? fault(421, "Not now.") : null),
  onRcptTo: (_to, _session, done) => done(mode === "refuse" ? fault(550, "Nobody of that name is here.") : null),
  onData(stream, session, done) {
    simpleParser(stream)
      .then((mail) => {
        if (mode === "busy") return done(fault(451, "Try again later."));
        messages.unshift({
          from: mail.from?.text ?? "",
          to: mail.to?.text ?? "",
          subject: mail.subject ?? "",
          text: mail.text ?? "",
          messageId: mail.messageId ?? "",
          files: mail.attachments.map(({ filename, contentType, size }) => ({
            name: filename,
            type: contentType,
            bytes: size,
          })),
        });
        messages.length = Math.min(messages.length, MOST);
        if (mode === "lost") return smtp.connections.forEach((one) => one._socket.destroy());
        done();
      })
      .catch(done);
  },
});
smtp.on("error", () => undefined);

const escaped = (text) => text.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`);
const page = () => `<!doctype html><html lang="en"><meta charset="utf-8"><title>Messages</title><h1>Messages</h1>
${messages.map(({ to, subject, text, files }) => `<article><h2>${escaped(subject)}</h2><p>To ${escaped(to)}</p><pre>${escaped(text)}</pre>${files.map((file) => `<p>${escaped(file.name ?? "")}, ${file.bytes} bytes</p>`).join("")}</article>`).join("<hr>")}</html>`;

const http = createServer((request, response) => {
  const { pathname, searchParams } = new URL(request.url ?? "/", "http://localhost");
  const answer = (status, body) => {
    response.writeHead(status, { "Content-Type": "application/json" });
    response.end(JSON.stringify(body));
  };
  if (pathname === "/" && request.method === "GET") {
    response.writeHead(200, { "Content-Type": "text/html; charset=utf-8" });
    return response.end(page());
  }
  if (pathname === "/messages" && request.method === "GET") return answer(200, messages);
  if (pathname === "/messages" && request.method === "DELETE") {
    messages.length = 0;
    return answer(200, messages);
  }
  if (pathname === "/behave" && request.method === "POST") {
    const wanted = searchParams.get("mode") ?? "";
    if (!MODES.includes(wanted)) return answer(422, { fault: `The modes are ${MODES.join(", ")}.` });
    mode = wanted;
    return answer(200, { mode });
  }
  answer(404, { fault: "Nothing is here." });
});

smtp.listen(SMTP_PORT, "127.0.0.1");
http.listen(PORT, "127.0.0.1", () =>
  process.stdout.write(`Mail server: smtp://127.0.0.1:${SMTP_PORT}, messages at http://127.0.0.1:${PORT}\n`),
);
