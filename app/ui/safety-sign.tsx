import type { HazardKind } from "@core";

/**
 * Safety signs by the shape and colour language of ISO 3864: blue disc for what must be done, yellow triangle for a
 * danger. These are the only places where those colours appear. The pictures inside are drawn for this app.
 */
const MANDATORY = new Set<HazardKind>(["lock-out"]);
const INNER: Record<HazardKind, string> = {
  "lock-out": "M8.500 11V9a3.500 3.500 0 0 1 7 0v2M7 11h10v7H7z",
  "stored-energy": "M9 9h6M9 11.500h6M9 14h6M12 14v3M9 17h6",
  hot: "M9 17c-1-2 1-3 0-5M12 17c-1-2 1-3 0-5M15 17c-1-2 1-3 0-5",
  pressure: "M12 15l3-3M8 16a5 5 0 1 1 8 0",
  moving: "M9 13a3 3 0 1 0 6 0 3 3 0 1 0-6 0M12 8.500V10M12 16v1.500M7.500 13H9M15 13h1.500",
  electric: "M13 8l-3 5h3l-2 5",
  battery: "M8 12h8v5H8zM9.500 12v-1.500M14.500 12v-1.500",
  chemical: "M10.500 9h3M11 9v3l-2.500 5h7L13 12V9",
  flammable: "M12 8c3 3 3.500 5 3 7a3 3 0 0 1-6 0c0-1.500 1-2 1-3.500 1 .5 1 1 1.500 1.500.5-1.500.5-3 .5-5z",
  uv: "M12 11.500a2 2 0 1 0 .01 0M12 8.500v1.500M12 17v-1M8.500 13.500H10M14 13.500h1.500",
  sharp: "M8 17l7-8 1 3-6 5z",
  heavy: "M9 12h6l1.500 5h-9zM10.500 12a1.500 1.500 0 0 1 3 0",
  biohazard:
    "M12 12.500a2 2 0 1 0 0-4 2 2 0 1 0 0 4M9.500 17a2 2 0 1 0 0-4 2 2 0 1 0 0 4M14.500 17a2 2 0 1 0 0-4 2 2 0 1 0 0 4",
  waste: "M9 12h6l-.6 5H9.600zM8.500 10.500h7",
};

export function SafetySign({ kind, size = 40 }: { kind: HazardKind; size?: number }) {
  const mandatory = MANDATORY.has(kind);
  return (
    <svg viewBox="0 0 24 24" width={size} height={size} aria-hidden="true" focusable="false" className="shrink-0">
      {mandatory ? (
        <circle cx="12" cy="12" r="11" fill="#005387" />
      ) : (
        <path d="M12 1.500L23 21H1z" fill="#F9A800" stroke="#000" strokeWidth="1.6" strokeLinejoin="round" />
      )}
      <path
        d={INNER[kind]}
        fill="none"
        stroke={mandatory ? "#fff" : "#000"}
        strokeWidth="1.4"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  );
}
