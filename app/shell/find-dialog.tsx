import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { useFetcher, useNavigate } from "react-router";

import { tagOfCode } from "~/machines/adding/tag-of-code";
import { ScanCode } from "~/ui/scan-code";

import type { Found } from "./find.server";

const WAIT_MS = 120;

/** Finds any machine, duty, site, procedure, part, record, person or place: `/` or Ctrl-K. A tag number, typed or scanned, goes straight to its machine. */
export function FindDialog() {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const fetcher = useFetcher<{ q: string; found: Found[]; exact: string | null }>();
  const navigate = useNavigate();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const inField =
        event.target instanceof HTMLElement &&
        (event.target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName));
      if (
        (event.key === "k" && (event.ctrlKey || event.metaKey)) ||
        (event.key === "/" && !inField && !event.ctrlKey)
      ) {
        event.preventDefault();
        setOpen(true);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);

  function ask(next: string): void {
    setText(next);
    clearTimeout(timer.current);
    timer.current = setTimeout(() => void fetcher.load(`/find?q=${encodeURIComponent(next)}`), WAIT_MS);
  }
  function go(href: string): void {
    setOpen(false);
    setText("");
    void navigate(href);
  }
  const answered = fetcher.data && fetcher.data.q === text ? fetcher.data : null;
  const found = answered?.found ?? [];
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        if (next) ask("");
      }}
    >
      <Dialog.Trigger asChild>
        <button
          type="button"
          className="inline-flex min-h-11 items-center gap-1 underline underline-offset-4"
          aria-label="Find anything, key slash or Ctrl-K"
        >
          Find
        </button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/50" />
        <Dialog.Content
          className="fixed inset-x-3 top-16 z-50 mx-auto max-w-xl border-2 border-ink bg-surface p-3"
          aria-describedby={undefined}
        >
          <Dialog.Title className="sr-only">Find a machine, duty, site, procedure, part, record or place</Dialog.Title>
          <Command shouldFilter={false} label="Find">
            <Command.Input
              value={text}
              onValueChange={ask}
              className="field"
              placeholder="Machine, tag, duty, site, part …"
              onKeyDown={(event) => {
                // A scanner types the tag and presses Enter at once.
                if (event.key === "Enter" && answered?.exact) {
                  event.preventDefault();
                  go(`/machines/${answered.exact}`);
                } else if (event.key === "Enter" && !answered && /^[A-Za-z0-9][A-Za-z0-9-]*\d$/.test(text.trim())) {
                  event.preventDefault();
                  go(`/t/${encodeURIComponent(text.trim())}`);
                }
              }}
            />
            <Command.List className="mt-2 max-h-[60vh] overflow-y-auto" aria-label="Found">
              {answered && found.length === 0 && (
                <p className="p-3">Nothing begins like that. Try a tag, a serial number or a site's name.</p>
              )}
              {found.map((one) => (
                <Command.Item
                  key={one.kind + one.href + one.title}
                  value={one.kind + one.href + one.title}
                  onSelect={() => go(one.href)}
                  className="flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-3 border-l-4 border-transparent px-3 py-2 data-[selected=true]:border-tan-fill data-[selected=true]:bg-sunken"
                >
                  <span className="w-20 shrink-0 text-xs text-ink-soft">{one.kind}</span>
                  <span className="font-semibold wrap-anywhere">{one.title}</span>
                  <span className="text-sm text-ink-soft wrap-anywhere">{one.text}</span>
                </Command.Item>
              ))}
            </Command.List>
          </Command>
          <p className="mt-2">
            <ScanCode
              label="Scan a tag"
              onCode={(code) => {
                const tag = tagOfCode(code);
                if (tag) go(`/t/${encodeURIComponent(tag)}`);
              }}
            />
          </p>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
