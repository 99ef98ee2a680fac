import { useEffect, useState } from "react";

const YEAR_SECONDS = 365 * 86_400;

/** Light or dark: the system's choice until the person makes one, which a cookie keeps. */
export function ThemeSwitch() {
  const [dark, setDark] = useState<boolean | null>(null);
  useEffect(() => {
    const chosen = document.documentElement.dataset.theme;
    setDark(chosen ? chosen === "dark" : matchMedia("(prefers-color-scheme: dark)").matches);
  }, []);
  if (dark === null) return null;
  return (
    <button
      type="button"
      className="min-h-11 text-sm underline underline-offset-4"
      onClick={() => {
        const theme = dark ? "light" : "dark";
        document.documentElement.dataset.theme = theme;
        document.cookie = `hound_theme=${theme}; path=/; max-age=${YEAR_SECONDS}; samesite=lax`;
        setDark(!dark);
      }}
    >
      {dark ? "Light" : "Dark"}
    </button>
  );
}
