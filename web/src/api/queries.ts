import {
  keepPreviousData,
  queryOptions,
  useMutation,
  useQuery,
  useQueryClient,
  type QueryClient,
} from "@tanstack/react-query";
import { api, data, outcome } from "./client";
import type {
  FolderHours,
  Plan,
  ProgramProfile,
  ReceiptView,
  SetRule,
  SettingsLink,
} from "./schema";

const session = queryOptions({
  queryKey: ["session"],
  queryFn: () => data(api.GET("/api/session")),
  retry: false,
});

const overview = queryOptions({
  queryKey: ["overview"],
  queryFn: () => data(api.GET("/api/overview")),
});

/** Asks for what the first page needs before there is anything to show it with. */
export function askAhead(queries: QueryClient) {
  void queries.query(session).catch(() => undefined);
  void queries.query(overview).catch(() => undefined);
}

export const useSession = () => useQuery(session);

export const useOverview = () => useQuery(overview);

export const useFolders = () =>
  useQuery({ queryKey: ["places"], queryFn: () => data(api.GET("/api/folders")) });

export const useRoom = () =>
  useQuery({ queryKey: ["room"], queryFn: () => data(api.GET("/api/room")) });

export const useProject = (id: string) =>
  useQuery({
    queryKey: ["project", id],
    queryFn: () => data(api.GET("/api/projects/{id}", { params: { path: { id } } })),
    enabled: id !== "",
  });

export const useProgram = (project: string) =>
  useQuery({
    queryKey: ["program", project],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/program", { params: { path: { id: project } } })),
    enabled: project !== "",
  });

/** What stands in a settings file, and what it seems to mean. */
export const useSettingsLook = () =>
  useMutation({
    mutationFn: (link: SettingsLink) => data(api.POST("/api/programs/look", { body: { link } })),
  });

/** Changes around a program's own settings. */
export function useSettings(project: string) {
  const queries = useQueryClient();
  const params = { path: { id: project } };
  const onSuccess = () => queries.invalidateQueries();
  return {
    allow: useMutation({
      mutationFn: () => data(api.POST("/api/projects/{id}/program/allow", { params })),
      onSuccess,
    }),
    putRight: useMutation({
      mutationFn: (body: { digest: string; insist: boolean }) =>
        data(api.POST("/api/projects/{id}/program/right", { params, body })),
      onSuccess,
    }),
    undo: useMutation({
      mutationFn: () => data(api.POST("/api/projects/{id}/program/undo", { params })),
      onSuccess,
    }),
  };
}

export const usePlanVersions = (project: string) =>
  useQuery({
    queryKey: ["versions", project],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/plan/versions", { params: { path: { id: project } } })),
  });

/** What copies cost, as measured. */
export const usePrice = (project: string, document: string | undefined) =>
  useQuery({
    queryKey: ["price", project, document],
    queryFn: () =>
      data(
        api.GET("/api/projects/{id}/plan/price", {
          params: { path: { id: project }, query: document ? { document } : {} },
        }),
      ),
  });

export const usePlanDefaults = () =>
  useQuery({ queryKey: ["defaults"], queryFn: () => data(api.GET("/api/plans/defaults")) });

export const useSetDefaultPlan = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (plan: Plan) => data(api.PUT("/api/plans/defaults", { body: { plan } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["defaults"] }),
  });
};

/** What taking a settings file would change. */
export const useCompareSettings = () =>
  useMutation({
    mutationFn: (document: unknown) =>
      data(
        api.POST("/api/settings/compare", {
          body: { document: document as Record<string, unknown> },
        }),
      ),
  });

export const useImportSettings = () => {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (chosen: {
      document: unknown;
      usual: boolean;
      telling: boolean;
      projects: string[];
    }) =>
      data(
        api.POST("/api/settings/take", {
          body: { ...chosen, document: chosen.document as Record<string, unknown> },
        }),
      ),
    onSuccess: () => queries.invalidateQueries(),
  });
};

export const useVersions = (id: string) =>
  useQuery({
    queryKey: ["trail", id],
    queryFn: () => data(api.GET("/api/documents/{id}/versions", { params: { path: { id } } })),
    enabled: id !== "",
  });

export const useIncidents = (project: string) =>
  useQuery({
    queryKey: ["incidents", project],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/incidents", { params: { path: { id: project } } })),
    enabled: project !== "",
  });

export const useRecover = (id: string) =>
  useQuery({
    queryKey: ["desk", id],
    queryFn: () => data(api.GET("/api/documents/{id}/recovery", { params: { path: { id } } })),
    enabled: id !== "",
  });

export const usePlanFigures = (
  project: string,
  plan: Plan | undefined,
  document: string | undefined,
) =>
  useQuery({
    queryKey: ["figures", project, plan, document],
    queryFn: () =>
      data(
        api.POST("/api/projects/{id}/plan/figures", {
          params: { path: { id: project } },
          body: { plan: plan as Plan, ...(document && { document }) },
        }),
      ),
    enabled: project !== "" && plan !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });

/** What plans would have meant so far, and which would be better; the first is the one at hand. */
export const useAdvice = (project: string, plans: Plan[], document: string | undefined) =>
  useQuery({
    queryKey: ["advice", project, plans, document],
    queryFn: () =>
      data(
        api.POST("/api/projects/{id}/plan/advice", {
          params: { path: { id: project } },
          body: { plans, ...(document && { document }) },
        }),
      ),
    enabled: project !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });

export type RestoreMode = "REPLACE" | "BESIDE" | "NEXT" | "BRANCH" | "ELSEWHERE";

/** What a restore would do; `of` names the document whose state it is, if it is another. */
export const useRestorePreview = (
  id: string,
  state: string,
  mode: RestoreMode,
  of: string | undefined,
  folder: string | undefined,
) =>
  useQuery({
    queryKey: ["restore-preview", id, state, mode, of, folder],
    queryFn: () =>
      data(
        api.POST("/api/documents/{id}/restores/preview", {
          params: { path: { id } },
          body: { state, mode, ...(of && { of }), ...(folder && { folder }) },
        }),
      ),
    enabled: id !== "" && state !== "" && (mode !== "ELSEWHERE" || folder !== undefined),
    retry: false,
  });

export const useLayoutPreview = (id: string, state: string) =>
  useQuery({
    queryKey: ["layout-preview", id, state],
    queryFn: () =>
      data(
        api.POST("/api/documents/{id}/layouts/preview", {
          params: { path: { id } },
          body: { state },
        }),
      ),
    retry: false,
  });

/** What a rule for runs would find; nothing is asked while there is no rule. */
export const useRunsPreview = (project: string, sets: SetRule | undefined) =>
  useQuery({
    queryKey: ["runs-preview", project, sets],
    queryFn: () =>
      data(
        api.POST("/api/projects/{id}/runs/preview", {
          params: { path: { id: project } },
          body: { sets: sets as SetRule },
        }),
      ),
    enabled: sets !== undefined,
    placeholderData: keepPreviousData,
    retry: false,
  });

export const useReceipts = (id: string) =>
  useQuery({
    queryKey: ["receipts", id],
    queryFn: () => data(api.GET("/api/documents/{id}/restores", { params: { path: { id } } })),
    enabled: id !== "",
  });

/** A change that makes everything shown be fetched again. */
export function useChange<V, R>(change: (variables: V) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => queries.invalidateQueries(),
  });
}

export const useCopyNow = () =>
  useChange(({ id, note }: { id: string; note: string }) =>
    data(api.POST("/api/documents/{id}/copies", { params: { path: { id } }, body: { note } })),
  );

/** The next write is copied as soon as it rests. */
export const useNextWrite = () =>
  useChange(({ id, note }: { id: string; note: string }) =>
    data(api.POST("/api/documents/{id}/next-write", { params: { path: { id } }, body: { note } })),
  );

export const useStopAwaiting = () =>
  useChange((id: string) =>
    data(api.DELETE("/api/documents/{id}/next-write", { params: { path: { id } } })),
  );

export const useMark = (id: string) =>
  useChange((mark: { state: string; mark: string; on: boolean; note?: string }) =>
    data(api.POST("/api/documents/{id}/marks", { params: { path: { id } }, body: mark })),
  );

export const useRestore = (id: string) =>
  useChange(
    (what: {
      of?: string;
      state: string;
      mode: RestoreMode;
      folder?: string;
      digest: string;
    }): Promise<ReceiptView> =>
      outcome(api.POST("/api/documents/{id}/restores", { params: { path: { id } }, body: what })),
  );

/** Lays the files of a step out in a folder of their own. */
export const useLayOut = (id: string) =>
  useChange((what: { state: string; digest: string }) =>
    outcome<ReceiptView[]>(
      api.POST("/api/documents/{id}/layouts", { params: { path: { id } }, body: what }),
    ),
  );

/** Says which files of a run belong together; null makes documents single files again. */
export const useJoinRuns = (id: string) =>
  useChange((change: { version: number; sets: SetRule | null }) =>
    data(
      api.PUT("/api/projects/{id}/runs", {
        params: { path: { id }, header: { "If-Match": `"${change.version}"` } },
        body: change.sets === null ? {} : { sets: change.sets },
      }),
    ),
  );

/** Says when and how fast Kavrin may work in a place. */
export const useSetHours = () =>
  useChange((what: { id: string; hours: FolderHours }) =>
    data(
      api.PUT("/api/folders/{id}/hours", {
        params: { path: { id: what.id } },
        body: what.hours,
      }),
    ),
  );

/** Copies the live file to the next number of its chain, or to a trial beside it. */
export const useGoOn = (id: string) =>
  useChange((mode: "NEXT" | "BRANCH"): Promise<ReceiptView> =>
    outcome(api.POST("/api/documents/{id}/go-on", { params: { path: { id } }, body: { mode } })),
  );

export const useLayoutText = (project: string) =>
  useQuery({
    queryKey: ["layout", project],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/layout", { params: { path: { id: project } } })),
  });

/** How a layout that is still being typed compares with the folder. */
export const useLayoutCheck = (project: string, text: string) =>
  useQuery({
    queryKey: ["layout-check", project, text],
    queryFn: () =>
      data(
        api.POST("/api/projects/{id}/layout/preview", {
          params: { path: { id: project } },
          body: { text },
        }),
      ),
    enabled: text !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });

/** Keeps the layout and makes its missing folders. */
export const useMakeLayout = (project: string) =>
  useChange((text: string) =>
    data(
      api.PUT("/api/projects/{id}/layout", {
        params: { path: { id: project } },
        body: { text },
      }),
    ),
  );

export const useUndo = () =>
  useChange((id: string) =>
    outcome<ReceiptView>(api.POST("/api/restores/{id}/undo", { params: { path: { id } } })),
  );

export const useApply = (id: string) =>
  useChange((change: { version: number; plan: Plan; program: ProgramProfile }) =>
    data(
      api.PUT("/api/projects/{id}", {
        params: { path: { id }, header: { "If-Match": `"${change.version}"` } },
        body: { plan: change.plan, program: change.program },
      }),
    ),
  );

/** Gives a document a plan of its own; null lets it follow the project's again. */
export const useExcept = (document: string) =>
  useChange((change: { version: number; plan: Plan | null }) =>
    data(
      api.PUT("/api/documents/{id}/plan", {
        params: { path: { id: document }, header: { "If-Match": `"${change.version}"` } },
        body: change.plan === null ? {} : { plan: change.plan },
      }),
    ),
  );

export const useReport = () =>
  useChange((project: string) =>
    data(api.POST("/api/projects/{id}/incidents", { params: { path: { id: project } } })),
  );

/** Was it a crash, or closed on purpose? */
export const useAnswerIncident = () =>
  useChange((said: { project: string; id: string; crash: boolean }) =>
    data(
      api.POST("/api/projects/{project}/incidents/{id}/answer", {
        params: { path: { project: said.project, id: said.id } },
        body: { crash: said.crash },
      }),
    ),
  );

export const useCloseIncident = () =>
  useChange(({ project, id }: { project: string; id: string }) =>
    data(
      api.POST("/api/projects/{project}/incidents/{id}/close", {
        params: { path: { project, id } },
      }),
    ),
  );

export const useTakeBack = (id: string) =>
  useChange((bin: string) =>
    data(api.POST("/api/documents/{id}/take-back", { params: { path: { id } }, body: { bin } })),
  );

export const useAcceptJournals = () => useChange(() => data(api.POST("/api/journals/accept")));
