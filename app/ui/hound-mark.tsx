/** The hound: head in profile, tan ear, white muzzle. */
export function HoundMark({ size = 28 }: { size?: number }) {
  return (
    <svg viewBox="0 0 32 32" width={size} height={size} aria-hidden="true" focusable="false">
      <path
        d="M6 5c3-2 8-3 12-1 3 1 4 4 7 6 2 1 4 2 4 5 0 4-4 5-8 5l-3 8H9C7 23 6 18 7 13L4 14C3 10 4 7 6 5z"
        fill="var(--fill)"
      />
      <path
        d="M6 5c4 0 6 4 5 10-1 4-5 6-7 4-2-4-1-11 2-14z"
        fill="var(--tan-fill)"
        stroke="var(--ground)"
        strokeWidth="1"
      />
      <path d="M18 17c3 3 7 3 10 1-1 3-5 4-9 3z" fill="var(--on-fill)" />
      <circle cx="18.5" cy="10.5" r="1.4" fill="var(--on-fill)" />
    </svg>
  );
}
