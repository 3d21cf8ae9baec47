import { useEffect } from "react";
import { useLocation } from "react-router";
import type { OverviewView } from "../api/schema";
import { age, lostSince } from "../shared/words";
import { useNow } from "../shared/useNow";
import { viewAt } from "./where";
import { phrase } from "../words/phrase";

/** The document that has most to lose beyond what was accepted, while its program runs. */
export function pastAccepted(overview: OverviewView | undefined, now: number) {
  const all = (overview?.projects ?? []).flatMap((p) =>
    p.documents.map((d) => ({
      name: d.name,
      accepted: d.exposure.acceptedSeconds * 1000,
      lost: d.exposure.open.mayHoldWork
        ? (lostSince(d.exposure.fileLostSince, d.exposure, now) ?? 0)
        : 0,
    })),
  );
  return all.filter((d) => d.lost > d.accepted).sort((a, b) => b.lost - a.lost)[0];
}

/** Names view and document in the page's title; what is about to be lost comes first. */
export function useTitle(overview: OverviewView | undefined, document: string | undefined) {
  const now = useNow(30_000);
  const { pathname } = useLocation();
  const worst = pastAccepted(overview, now);
  const view = viewAt(pathname);
  const here = [view?.name, view?.needs === "document" ? document : undefined, "Kavrin"];
  const title = [
    worst && phrase("app.toLoseIn", { age: age(worst.lost), name: worst.name }),
    ...here,
  ]
    .filter(Boolean)
    .join(" · ");
  useEffect(() => {
    window.document.title = title;
  }, [title]);
}
