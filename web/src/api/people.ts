import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data } from "./client";
import { useSession } from "./queries";
import type { Grant } from "./schema";
import { phrase } from "../words/phrase";

export type Role = Grant["role"];

/** From the least to the most; each has what those before it have. */
export const ROLES: readonly Role[] = ["LOOK", "RESTORE", "PLAN", "ADMINISTER"];

export const ROLE_WORDS: Record<Role, string> = {
  LOOK: phrase("people.look"),
  RESTORE: phrase("api.backUpAndRestore"),
  PLAN: phrase("api.changePlansAndFolders"),
  ADMINISTER: phrase("people.administer"),
};

const covers = (held: Role | undefined, wanted: Role) =>
  held !== undefined && ROLES.indexOf(held) >= ROLES.indexOf(wanted);

/** Whether the person may something, with one project or, if none is named, with everything. */
export function useMay(): (role: Role, project?: string) => boolean {
  const session = useSession().data;
  return (role, project) =>
    covers(session?.everywhere, role) ||
    (project !== undefined && covers(session?.rights[project], role));
}

/** Whether the person says who may what in some project, or in all of them. */
export function useAdministersSomething(): boolean {
  const session = useSession().data;
  const held = [session?.everywhere, ...Object.values(session?.rights ?? {})];
  return held.some((role) => covers(role, "ADMINISTER"));
}

export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (who: { name: string; password: string }) => {
      await data(api.POST("/api/sign-in", { body: who }));
    },
    onSuccess: () => queries.resetQueries(),
  });
}

export const useInvitation = (token: string) =>
  useQuery({
    queryKey: ["invitation", token],
    queryFn: () => data(api.GET("/api/invitation", { params: { query: { token } } })),
    retry: false,
  });

export function useAccept() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (chosen: { token: string; password: string }) => {
      await data(api.POST("/api/invitation", { body: chosen }));
    },
    onSuccess: () => queries.resetQueries({ queryKey: ["session"] }),
  });
}

/** Ends the session here; what the page knew goes with it. */
export const useSignOut = () =>
  useMutation({
    mutationFn: async () => {
      await data(api.DELETE("/api/session"));
    },
    onSuccess: () => window.location.assign("/"),
  });

export const useOwnSessions = () =>
  useQuery({ queryKey: ["sessions"], queryFn: () => data(api.GET("/api/session/all")) });

export function useEndSession() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (id: string) => {
      await data(api.DELETE("/api/session/all/{id}", { params: { path: { id } } }));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["sessions"] }),
  });
}

export function usePassword() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (change: { old?: string; password: string }) => {
      await data(api.PUT("/api/session/password", { body: change }));
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["sessions"] }),
  });
}

export const usePeople = (enabled: boolean) =>
  useQuery({ queryKey: ["people"], queryFn: () => data(api.GET("/api/people")), enabled });

function useAboutPeople<T, R>(mutationFn: (about: T) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn,
    onSuccess: () => queries.invalidateQueries({ queryKey: ["people"] }),
  });
}

export const useInvite = () =>
  useAboutPeople((body: { name: string; grants: Grant[] }) =>
    data(api.POST("/api/people", { body })),
  );

export const useGrants = () =>
  useAboutPeople(async ({ name, grants }: { name: string; grants: Grant[] }) => {
    await data(
      api.PUT("/api/people/{name}/grants", { params: { path: { name } }, body: { grants } }),
    );
  });

export const useRemovePerson = () =>
  useAboutPeople(async (name: string) => {
    await data(api.DELETE("/api/people/{name}", { params: { path: { name } } }));
  });
