import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data } from "./client";
import { useSession } from "./queries";
import type { NotificationSettings, OutcomeView, OwnNotifications } from "./schema";

export const useNotifications = () =>
  useQuery({
    queryKey: ["telling"],
    queryFn: () => data(api.GET("/api/notifications")),
    enabled: useSession().data?.everywhere === "ADMINISTER",
  });

export const useMessages = () =>
  useQuery({
    queryKey: ["messages"],
    queryFn: () => data(api.GET("/api/messages")),
    enabled: useSession().data !== undefined,
  });

export const useTellPeople = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: NotificationSettings) => data(api.PUT("/api/notifications", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["telling"] }),
  });
};

export const useNotificationTest = () =>
  useMutation({
    mutationFn: (channel: OutcomeView["channel"]) =>
      data(api.POST("/api/notifications/test", { body: { channel } })),
  });

export const usePutOff = () =>
  useMutation({
    mutationFn: ({ document, minutes }: { document: string; minutes: number }) =>
      data(
        api.POST("/api/documents/{id}/reminder/put-off", {
          params: { path: { id: document } },
          body: { minutes },
        }),
      ),
  });

/** What the person signed in wants to hear of, and how. */
export const useOwnNotifications = () =>
  useQuery({
    queryKey: ["telling", "own"],
    queryFn: () => data(api.GET("/api/session/notifications")),
    enabled: useSession().data !== undefined,
  });

export const useSetOwnNotifications = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: OwnNotifications) => data(api.PUT("/api/session/notifications", { body })),
    onSuccess: (view) => {
      queries.setQueryData(["telling", "own"], view);
      return queries.invalidateQueries({ queryKey: ["messages"] });
    },
  });
};

export const useOwnNotificationTest = () =>
  useMutation({
    mutationFn: (channel: OutcomeView["channel"]) =>
      data(api.POST("/api/session/notifications/test", { body: { channel } })),
  });
