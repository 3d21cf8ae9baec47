import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, data, outcome } from "../api/client";
import { useChange } from "../api/queries";
import type { FolderBeside, Project } from "../api/schema";
import { Failure, Loading, PathText, Side } from "../shared/parts";
import { count, size } from "../shared/words";
import { phrase } from "../words/phrase";

const WHY: Record<FolderBeside["why"], string> = {
  OWN_FILES: phrase("plan.theProgramsOwnFiles"),
  LINKED: phrase("plan.linkedFiles"),
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
        {phrase("plan.kavrinMayNotLookThereKavrin")}
      </Text>
    );
  }
  if (beside.backedUpBy !== undefined) {
    return (
      <Text as="span" color="fir">
        {phrase("plan.backedUpAs", { backedUpBy: beside.backedUpBy })}
      </Text>
    );
  }
  return (
    <Text as="span" color={beside.files > 0 ? "caution" : "muted"}>
      {beside.files > 0 ? phrase("plan.notBackedUp") : phrase("plan.nothingThereNow")}
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
            aria-label={phrase("plan.backUpToo", { folder: beside.folder })}
          >
            {phrase("plan.backUpToo2")}
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
  if (found.isPending) return <Loading what={phrase("plan.lookingBesideTheProject")} />;
  return (
    <Box>
      <Failure error={found.error} />
      {found.data?.length === 0 && (
        <Text fontSize="13px" color="muted">
          {phrase("plan.nothingNoDocumentLinksToFiles", { name: project.program.name })}
        </Text>
      )}
      {found.data !== undefined && found.data.length > 0 && (
        <>
          <Text fontSize="12px" color="muted" mb="2">
            {phrase("plan.eachBecomesAProjectOfIts", { recovery: project.recovery })}
          </Text>
          <Box as="ul" aria-label={phrase("plan.foldersBesideTheProject")}>
            {found.data.map((beside) => (
              <Row key={beside.why + beside.folder} project={project} beside={beside} />
            ))}
          </Box>
        </>
      )}
    </Box>
  );
}
