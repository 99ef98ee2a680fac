import type { ReactNode } from "react";

/** Line drawings on a 24-unit square, drawn for this app. */
const GLYPHS: Record<string, ReactNode> = {
  "flake-ice-maker": (
    <>
      <path d="M5 3h14v10H5z" />
      <path d="M8 6h8M8 9h5" />
      <path d="M7 13l2 3M17 13l-2 3M8 19l1.5-2 2 2-1 2.500zM13 20l2-1.500 2 1.500" />
    </>
  ),
  "slide-stainer": (
    <>
      <path d="M3 20h18M4 16h3v4M9 16h3v4M14 16h3v4" />
      <path d="M5 4h14M12 4v4M12 8l-1.500 4h3z" />
    </>
  ),
  "wide-format-printer": (
    <>
      <path d="M2 6h20v6H2z" />
      <path d="M5 12v7l2 2M19 12v7l-2 2M8 12v6c3 2 5-2 8 0v-6" />
    </>
  ),
  "ride-on-sweeper": (
    <>
      <path d="M3 17V11h8l2-5h4v11" />
      <circle cx="16" cy="18" r="2.500" />
      <path d="M3 17c1 2 5 2 6 0M4 19l-1 2M6 19.500V22M8 19l1 2" />
    </>
  ),
  "cnc-lathe": (
    <>
      <path d="M2 8h6v9H2zM8 11h7v3H8zM15 12l4-2v5z" />
      <path d="M2 20h20" />
    </>
  ),
  "steam-steriliser": (
    <>
      <path d="M3 9h18v11H3z" />
      <circle cx="11" cy="14.500" r="3.500" />
      <path d="M8 6c-1-1 1-2 0-3M12 6c-1-1 1-2 0-3M16 6c-1-1 1-2 0-3" />
    </>
  ),
  "conveyor-oven": (
    <>
      <path d="M5 5h14v7H5z" />
      <path d="M1 15h22v3H1zM4 18v3M20 18v3M9 8.500h6" />
    </>
  ),
  "soft-serve-freezer": (
    <>
      <path d="M5 3h14v8H5zM12 11v2" />
      <path d="M9 16c0-2 6-2 6 0l-3 6zM12 13c2 0 3 1.500 3 3" />
    </>
  ),
  "recirculating-chiller": (
    <>
      <path d="M4 4h16v12H4zM8 16v3h8v-3M2 21h20" />
      <path d="M12 6.500v7M9 8l6 4M15 8l-6 4" />
    </>
  ),
  "mass-spectrometer": (
    <>
      <path d="M2 14c5 0 6-8 12-8h8v4h-7c-4 0-6 8-11 8" />
      <path d="M2 14v6M17 14v2M20 13v3M14 15v1" />
    </>
  ),
  "flatbed-uv-printer": (
    <>
      <path d="M2 15h20v3H2zM4 18v3M20 18v3" />
      <path d="M9 5h6v5H9zM4 7.500h16M11 10v2M13 10v2" />
    </>
  ),
  "conveyor-toaster": (
    <>
      <path d="M5 4h14v9H5zM3 20l4-7M21 20H3" />
      <path d="M8 7h8M8 10h8" />
    </>
  ),
  "ride-on-scrubber": (
    <>
      <path d="M3 16V9h7l2-4h5v11z" />
      <path d="M4 18h5v3H4zM11 18h5v3h-5zM20 17l2 4" />
    </>
  ),
  "prep-cabinet": (
    <>
      <path d="M3 8h18v12H3zM12 8v12M5 8l2-3h10l2 3" />
      <path d="M10 13v3M14 13v3" />
    </>
  ),
  "chemistry-analyser": (
    <>
      <path d="M3 20h18M5 20v-7h14v7" />
      <circle cx="12" cy="8" r="4" />
      <path d="M12 4v1M12 11v1M8 8h1M15 8h1" />
    </>
  ),
  "icp-spectrometer": (
    <>
      <path d="M3 9h8v6H3zM11 10h3v4h-3z" />
      <path d="M14 10c4-2 6 0 8 2-2 2-4 4-8 2M5 18h4" />
    </>
  ),
  "card-printer": (
    <>
      <path d="M4 9h16v8H4zM7 9V5h10v4" />
      <path d="M7 14h10v6H7zM9 17h3" />
    </>
  ),
  "wash-tunnel-conveyor": (
    <>
      <path d="M4 14V8c0-5 16-5 16 0v6" />
      <path d="M1 16h22M3 19h18M9 8v2M12 7v4M15 8v2" />
      <circle cx="4" cy="19" r="1.500" />
      <circle cx="20" cy="19" r="1.500" />
    </>
  ),
  "dental-mill": (
    <>
      <path d="M4 3h16v18H4zM12 3v7l-1 3h2l-1-3" />
      <path d="M9 15c2-1 4-1 6 0v3c-1 0-1 2-2 0h-2c-1 2-1 0-2 0z" />
    </>
  ),
};

/** A machine family's glyph; families without one of their own get a plain plate with a screw in each corner. */
export function FamilyGlyph({ family, size = 32 }: { family: string; size?: number }) {
  return (
    <svg
      viewBox="0 0 24 24"
      width={size}
      height={size}
      fill="none"
      stroke="currentColor"
      strokeWidth="1.5"
      strokeLinejoin="round"
      strokeLinecap="round"
      aria-hidden="true"
      focusable="false"
      className="shrink-0"
    >
      {GLYPHS[family] ?? (
        <>
          <path d="M3 5h18v14H3z" />
          <path d="M5.500 7.500h.01M18.500 7.500h.01M5.500 16.500h.01M18.500 16.500h.01M8 12h8" />
        </>
      )}
    </svg>
  );
}
