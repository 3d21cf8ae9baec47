import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, data, outcome } from "../api/client";
import { useChange } from "../api/queries";
import type { FolderBeside, Project } from "../api/schema";
import { Failure, Loading, PathText, Side } from "../shared/parts";
import { count, size } from "../shared/words";

const WHY: Record<FolderBeside["why"], string> = {
  OWN_FILES: "the program's own files",
  LINKED: "linked files",
};

const lastName = (path: string) => path.slice(path.lastIndexOf("/") + 1);

/** What a project over that folder is called. */
const nameFor = (project: Project, beside: FolderBeside) =>
  beside.why === "OWN_FILES"
    ? `${project.program.name} ${lastName(beside.folder)}`
    : lastName(beside.folder);

function Standing({ beside }: { beside: FolderBeside }) {
  if (!beside.allowed) {
    return (
      <Text as="span" color="caution">
        ▲ Kavrin may not look there; ./kavrin start --root FOLDER allows it
      </Text>
    );
  }
  if (beside.backedUpBy !== undefined) {
    return (
      <Text as="span" color="fir">
        ✓ backed up as “{beside.backedUpBy}”
      </Text>
    );
  }
  return (
    <Text as="span" color={beside.files > 0 ? "caution" : "muted"}>
      {beside.files > 0 ? "▲ not backed up" : "nothing there now"}
    </Text>
  );
}

function Row({ project, beside }: { project: Project; beside: FolderBeside }) {
  const create = useChange(() =>
    outcome<Project>(
      api.POST("/api/projects", {
        body: {
          name: nameFor(project, beside),
          folder: beside.folder,
          rule: beside.rule,
          recovery: project.recovery,
          plan: project.plan,
        },
      }),
    ),
  );
  const open = beside.allowed && beside.files > 0 && beside.backedUpBy === undefined;
  return (
    <Box as="li" listStyleType="none" mb="2">
      <PathText path={beside.folder} size="13px" />
      <Flex gap="2" fontSize="12px" color="muted" align="center" wrap="wrap">
        <span>{WHY[beside.why]}</span>
        <Text as="span" fontFamily="mono">
          {beside.rule.join(" ")}
        </Text>
        {beside.files > 0 && (
          <span>
            {count(beside.files, "file")}, {size(beside.bytes)}
          </span>
        )}
        <Standing beside={beside} />
        {open && (
          <Side
            needs="PLAN"
            over="everything"
            size="xs"
            loading={create.isPending}
            onClick={() => create.mutate(undefined)}
            aria-label={`Back up ${beside.folder} too`}
          >
            Back up too
          </Side>
        )}
      </Flex>
      <Failure error={create.error} />
    </Box>
  );
}

/** What the work needs outside of the project, and whether anything backs it up. */
export function Beside({ project }: { project: Project }) {
  const found = useQuery({
    queryKey: ["beside", project.id, project.version],
    queryFn: () =>
      data(api.GET("/api/projects/{id}/beside", { params: { path: { id: project.id } } })),
  });
  if (found.isPending) return <Loading what="Looking beside the project" />;
  return (
    <Box>
      <Failure error={found.error} />
      {found.data?.length === 0 && (
        <Text fontSize="13px" color="muted">
          Nothing: no document links to files elsewhere, and the profile of {project.program.name}{" "}
          names no templates, presets or the like. They can be named under Programs, “Edit the
          profile”.
        </Text>
      )}
      {found.data !== undefined && found.data.length > 0 && (
        <>
          <Text fontSize="12px" color="muted" mb="2">
            Each becomes a project of its own, with versions and restore: backed up in{" "}
            {project.recovery} by this plan.
          </Text>
          <Box as="ul" aria-label="Folders beside the project">
            {found.data.map((beside) => (
              <Row key={beside.why + beside.folder} project={project} beside={beside} />
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
