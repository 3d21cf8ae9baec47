import { useLayoutEffect } from "react";

const OFF = "kavrin.keys.off";

export const keysAreOff = () => localStorage.getItem(OFF) === "yes";
export const switchKeys = (off: boolean) => localStorage.setItem(OFF, off ? "yes" : "no");

export type Keys = Partial<Record<string, () => void>>;

function inField(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ["INPUT", "TEXTAREA", "SELECT"].includes(target.tagName))
  );
}

/** True while a dialog asks for something: what lies behind it must not move. */
const isBehindDialog = () =>
  document.querySelector('[role="dialog"][data-state="open"]') !== null ||
  document.querySelector('[role="alertdialog"][data-state="open"]') !== null;

/** What a key press asks for, if anything; idle in fields, with modifiers, or when switched off. */
export function asked(event: KeyboardEvent, keys: Keys, off: boolean): (() => void) | undefined {
  if (off || event.ctrlKey || event.metaKey || event.altKey || inField(event.target)) {
    return undefined;
  }
  return keys[event.key];
}

/** Single keys while the component is on the page; they act on what is shown, not on what was. */
export function useKeys(keys: Keys): void {
  useLayoutEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const action = asked(event, keys, keysAreOff() || isBehindDialog());
      if (action) {
        event.preventDefault();
        action();
      }
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [keys]);
}
