/** What has to be true, one tick each. */
export function GateTicks({
  checks,
  isTicked,
  disabled = false,
  onTick,
}: {
  checks: readonly string[];
  isTicked: (check: string) => boolean;
  disabled?: boolean;
  onTick: (check: string, ticked: boolean) => void;
}) {
  return (
    <ul className="mb-5 grid gap-2 sm:grid-cols-2">
      {checks.map((check) => (
        <li key={check}>
          <label className="flex min-h-12 items-center gap-3 border-2 border-line px-3 py-2 has-checked:border-ink">
            <input
              type="checkbox"
              className="size-6 shrink-0 accent-(--fill)"
              checked={isTicked(check)}
              disabled={disabled}
              onChange={(event) => onTick(check, event.target.checked)}
            />
            <span>{check}</span>
          </label>
        </li>
      ))}
    </ul>
  );
}

/** A surface temperature in both systems: a mistake would hurt. */
export const bothDegrees = (celsius: number): string => `${celsius} °C (${Math.round((celsius * 9) / 5 + 32)} °F)`;
