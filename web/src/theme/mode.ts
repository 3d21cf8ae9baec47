import { useEffect, useSyncExternalStore } from "react";

const KEY = "kavrin.mode";
const dark = window.matchMedia("(prefers-color-scheme: dark)");
const listeners = new Set<() => void>();

export type Mode = "light" | "dark";

function current(): Mode {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return dark.matches ? "dark" : "light";
}

function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  dark.addEventListener("change", listener);
  return () => {
    listeners.delete(listener);
    dark.removeEventListener("change", listener);
  };
}

/** Light or dark, as the system says unless the person chose; sets it on the page. */
export function useMode(): [Mode, (mode: Mode) => void] {
  const mode = useSyncExternalStore(subscribe, current);
  useEffect(() => {
    document.documentElement.classList.remove("light", "dark");
    document.documentElement.classList.add(mode);
    document.documentElement.style.colorScheme = mode;
  }, [mode]);
  return [
    mode,
    (chosen) => {
      localStorage.setItem(KEY, chosen);
      listeners.forEach((listener) => listener());
    },
  ];
}
