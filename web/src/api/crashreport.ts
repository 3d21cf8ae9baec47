import { useQuery } from "@tanstack/react-query";
import { api, data } from "./client";

/** What a crash took, what came back, and what would have saved most. */
export const useCrashReport = (project: string, incident: string) =>
  useQuery({
    queryKey: ["closing", project, incident],
    queryFn: () =>
      data(
        api.GET("/api/projects/{project}/incidents/{id}/crash-report", {
          params: { path: { project, id: incident } },
        }),
      ),
    enabled: project !== "" && incident !== "",
  });
