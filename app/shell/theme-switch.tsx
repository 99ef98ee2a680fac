import { useSyncExternalStore } from "react";

const YEAR_SECONDS = 365 * 86_400;
const CHANGED = "hound-theme";
const systemDark = (): MediaQueryList => matchMedia("(prefers-color-scheme: dark)");

function subscribe(listener: () => void): () => void {
  const system = systemDark();
  system.addEventListener("change", listener);
  window.addEventListener(CHANGED, listener);
  return () => {
    system.removeEventListener("change", listener);
    window.removeEventListener(CHANGED, listener);
  };
}

function isDark(): boolean {
  const chosen = document.documentElement.dataset.theme;
  return chosen ? chosen === "dark" : systemDark().matches;
}

/** Light or dark: the system's choice until the person makes one, which a cookie keeps. */
export function ThemeSwitch() {
  const dark = useSyncExternalStore<boolean | null>(subscribe, isDark, () => null);
  if (dark === null) return null;
  return (
    <button
      type="button"
      className="min-h-11 text-sm underline underline-offset-4"
      onClick={() => choose(dark ? "light" : "dark")}
    >
      {dark ? "Light" : "Dark"}
    </button>
  );
}

function choose(theme: "light" | "dark"): void {
  document.documentElement.dataset.theme = theme;
  document.cookie = `hound_theme=${theme}; path=/; max-age=${YEAR_SECONDS}; samesite=lax`;
  window.dispatchEvent(new Event(CHANGED));
}
