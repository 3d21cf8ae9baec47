import { useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { useOverview } from "../api/queries";
import { phrase } from "../words/phrase";

/**
 * Views in the order of the work; the digit opens them. What is over everything is for those who may
 * see everything.
 */
export const VIEWS = [
  { digit: "1", name: phrase("app.overview"), path: "overview", needs: "nothing" },
  {
    digit: "2",
    name: phrase("app.programs"),
    path: "programs",
    needs: "nothing",
    over: "everything",
  },
  {
    digit: "3",
    name: phrase("app.folders"),
    path: "folders",
    needs: "nothing",
    over: "everything",
  },
  { digit: "4", name: phrase("common.plan"), path: "plan", needs: "document" },
  { digit: "5", name: phrase("app.versions"), path: "versions", needs: "document" },
  { digit: "6", name: phrase("app.recover"), path: "recover", needs: "document" },
  { digit: "7", name: phrase("app.compare"), path: "compare", needs: "document" },
  { digit: "8", name: phrase("common.parts"), path: "parts", needs: "document" },
  { digit: "9", name: phrase("app.linkedFiles"), path: "links", needs: "document" },
] as const;

/** The view an address belongs to, if it is one of these. */
export const viewAt = (pathname: string) =>
  VIEWS.find((v) => pathname === `/${v.path}` || pathname.startsWith(`/${v.path}/`));

const LAST = "kavrin.document";

/** The document in hand: the one in the address, else the last one, else the first there is. */
export function useWhere() {
  const { pathname } = useLocation();
  const documentId = useParams().documentId ?? /^\/[^/]+\/([^/]+)$/.exec(pathname)?.[1];
  const overview = useOverview();
  const projects = overview.data?.projects ?? [];
  const all = projects.flatMap((project) =>
    project.documents.map((document) => ({ project, document })),
  );
  const kept = sessionStorage.getItem(LAST);
  if (documentId) sessionStorage.setItem(LAST, documentId);
  const inHand =
    all.find((d) => d.document.id === documentId) ??
    all.find((d) => d.document.id === kept) ??
    all.find((d) => d.document.incident) ??
    all[0];
  return { overview, all, inHand };
}

export function addressOf(view: (typeof VIEWS)[number], document: string | undefined): string {
  return view.needs === "document" && document ? `/${view.path}/${document}` : `/${view.path}`;
}

/** Markers A and B in the address, so that a second window shows the same. */
export function useMarkers() {
  const [search, setSearch] = useSearchParams();
  const set = (changes: Partial<Record<"a" | "b" | "s", string>>) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        Object.entries(changes).forEach(([key, value]) => {
          if (value) next.set(key, value);
        });
        return next;
      },
      { replace: true },
    );
  return {
    a: search.get("a") ?? "",
    b: search.get("b") ?? "",
    s: search.get("s") ?? "",
    part: search.get("part") ?? undefined,
    set,
  };
}

export function useGo() {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const go = (to: string) => void navigate(to);
  /** For what is done by itself once something has ended: not if the person went elsewhere since. */
  const goOn = (to: string) => {
    if (window.location.pathname === pathname) go(to);
  };
  return { go, goOn, pathname };
}
