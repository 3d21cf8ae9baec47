import { type ComponentType, createElement, lazy, useState } from "react";

// The overview comes with the page; the other views are fetched while the person reads it.
const fetches = {
  Start: () => import("../start/Start").then((m) => ({ default: m.Start })),
  Programs: () => import("../programs/Programs").then((m) => ({ default: m.Programs })),
  Folders: () => import("../folders/Folders").then((m) => ({ default: m.Folders })),
  Plan: () => import("../plan/Plan").then((m) => ({ default: m.Plan })),
  Versions: () => import("../versions/Versions").then((m) => ({ default: m.Versions })),
  Recover: () => import("../recover/Recover").then((m) => ({ default: m.Recover })),
  Notifications: () =>
    import("../notifications/Notifications").then((m) => ({ default: m.Notifications })),
  Compare: () => import("../compare/Compare").then((m) => ({ default: m.Compare })),
  Parts: () => import("../parts/Parts").then((m) => ({ default: m.Parts })),
  Links: () => import("../links/Links").then((m) => ({ default: m.Links })),
  Pack: () => import("../pack/Pack").then((m) => ({ default: m.Pack })),
  CrashReport: () => import("../crashreport/CrashReport").then((m) => ({ default: m.CrashReport })),
  RecoveryTest: () =>
    import("../recoverytest/RecoveryTest").then((m) => ({ default: m.RecoveryTest })),
  UnderWay: () => import("../underway/UnderWay").then((m) => ({ default: m.UnderWay })),
  Elsewhere: () => import("../elsewhere/Elsewhere").then((m) => ({ default: m.Elsewhere })),
  People: () => import("../people/People").then((m) => ({ default: m.People })),
  BringBack: () => import("../elsewhere/BringBack").then((m) => ({ default: m.BringBack })),
  RecoverSeveral: () =>
    import("../recoverseveral/RecoverSeveral").then((m) => ({ default: m.RecoverSeveral })),
};
type Name = keyof typeof fetches;
const fetched = new Map<Name, ComponentType>();

/** A view shown at once if it was fetched; React would wait a moment even then. */
function viewOf(name: Name): ComponentType {
  const Later = lazy(fetches[name]);
  return function View() {
    const [Now] = useState(() => fetched.get(name));
    return createElement(Now ?? Later);
  };
}

const names = Object.keys(fetches) as Name[];

export const views = Object.fromEntries(names.map((name) => [name, viewOf(name)])) as Record<
  Name,
  ComponentType
>;

/** Fetches every view that was not fetched yet. */
export async function fetchViews(): Promise<void> {
  await Promise.all(
    names
      .filter((name) => !fetched.has(name))
      .map(async (name) => fetched.set(name, (await fetches[name]()).default)),
  );
}

/** Fetches the views once the page stands; a view that cannot be is fetched when it is asked for. */
export function fetchLater(): () => void {
  const waiting = setTimeout(() => void fetchViews().catch(() => undefined), 3000);
  return () => clearTimeout(waiting);
}
