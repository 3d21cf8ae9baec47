import { useEffect } from "react";
import type { OverviewView } from "../api/schema";
import { age, lostSince } from "../shared/words";
import { useNow } from "../shared/useNow";

/** The document that has most to lose beyond what was accepted, while its program runs. */
export function pastAccepted(overview: OverviewView | undefined, now: number) {
  const all = (overview?.projects ?? []).flatMap((p) =>
    p.documents.map((d) => ({
      name: d.name,
      accepted: d.exposure.acceptedSeconds * 1000,
      lost: d.exposure.programRuns
        ? (lostSince(d.exposure.fileLostSince, d.exposure, now) ?? 0)
        : 0,
    })),
  );
  return all.filter((d) => d.lost > d.accepted).sort((a, b) => b.lost - a.lost)[0];
}

/** Puts it into the page's title, so that it is seen while another page is in front. */
export function useTitle(overview: OverviewView | undefined) {
  const now = useNow(30_000);
  const worst = pastAccepted(overview, now);
  const title = worst ? `▲ ${age(worst.lost)} to lose · ${worst.name} · Kavrin` : "Kavrin";
  useEffect(() => {
    document.title = title;
  }, [title]);
}
