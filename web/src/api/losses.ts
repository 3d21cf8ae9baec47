import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, data } from "./client";

/** Open questions about saves that took much away. */
export const useLosses = () =>
  useQuery({ queryKey: ["losses"], queryFn: () => data(api.GET("/api/losses")) });

export const useAnswerLoss = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (r: { document: string; after: string; answer: "meant" | "not today" }) =>
      data(
        api.POST("/api/documents/{id}/losses", {
          params: { path: { id: r.document } },
          body: { after: r.after, answer: r.answer },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["losses"] }),
  });
};
