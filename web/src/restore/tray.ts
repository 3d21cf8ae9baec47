import { useSyncExternalStore } from "react";

/** A part of a state, to be brought into the file of today. */
export interface Pick {
  state: string;
  part: string;
  label: string;
  /** When the work in that state was done. */
  work: string;
}

const KEY = "kavrin.parts.";
const heard = new Set<() => void>();
/** As they were read last: the same picks as long as the same is stored. */
const held = new Map<string, { stored: string; picks: Pick[] }>();

function read(document: string): Pick[] {
  const stored = sessionStorage.getItem(KEY + document) ?? "[]";
  const known = held.get(document);
  if (known?.stored === stored) return known.picks;
  const picks = JSON.parse(stored) as Pick[];
  held.set(document, { stored, picks });
  return picks;
}

function write(document: string, picks: Pick[]): void {
  sessionStorage.setItem(KEY + document, JSON.stringify(picks));
  heard.forEach((tell) => tell());
}

function subscribe(tell: () => void): () => void {
  heard.add(tell);
  return () => heard.delete(tell);
}

/** One of each part: the one picked last counts. */
export const withPick = (picks: Pick[], pick: Pick): Pick[] => [
  ...picks.filter((p) => p.part !== pick.part),
  pick,
];

/** Parts picked so far for a document, from whatever view; kept over a reload. */
export function useTray(document: string) {
  const picks = useSyncExternalStore(subscribe, () => read(document));
  return {
    picks,
    add: (pick: Pick) => write(document, withPick(read(document), pick)),
    remove: (pick: Pick) =>
      write(
        document,
        read(document).filter((p) => p !== pick),
      ),
    clear: () => write(document, []),
  };
}

/** As they are asked for: together by their states. */
export function byState(picks: Pick[]): { state: string; parts: string[] }[] {
  const states = [...new Set(picks.map((p) => p.state))];
  return states.map((state) => ({
    state,
    parts: picks.filter((p) => p.state === state).map((p) => p.part),
  }));
}
