import { Box, Text } from "@chakra-ui/react";
import { useFoundParts } from "../api/parts";
import { useGo } from "../app/where";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/dates";
import { phrase } from "../words/phrase";

/** The same name in all documents. */
export function EveryProject(props: { words: string; zone: string; now: number }) {
  const found = useFoundParts(props.words);
  const { go } = useGo();
  const all = found.data ?? [];
  return (
    <Box
      borderTop="1px solid"
      borderColor="hairline"
      maxH="150px"
      overflow="auto"
      px="3"
      py="1.5"
      fontSize="13px"
      tabIndex={0}
      role="region"
      aria-label={phrase("parts.foundInAllProjects")}
    >
      <Text fontSize="12px" color="muted" mb="1">
        {found.isPending
          ? phrase("parts.lookingInAllProjects")
          : phrase("parts.inAllProjects", { all: all.length })}
      </Text>
      {all.map((p) => (
        <Text key={`${p.document}-${p.id}`} py="0.5">
          <Quiet mr="2" onClick={() => go(`/parts/${p.document}?part=${p.id}`)}>
            {p.label}
          </Quiet>
          <Text as="span" color="muted">
            {phrase("parts.inOf", { kind: p.kind, path: p.path, project: p.project })}{" "}
          </Text>
          {p.there ? (
            phrase("parts.thereNow")
          ) : (
            <Text as="span" color="loss">
              {phrase("parts.lastSeen", { moment: moment(p.last, props.zone, props.now) })}
            </Text>
          )}
        </Text>
      ))}
    </Box>
  );
}
