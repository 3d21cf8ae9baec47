import { Box, Text } from "@chakra-ui/react";
import { useFoundParts } from "../api/parts";
import { useGo } from "../app/where";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/dates";

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
      aria-label="Found in all projects"
    >
      <Text fontSize="12px" color="muted" mb="1">
        {found.isPending ? "Looking in all projects" : `In all projects · ${all.length}`}
      </Text>
      {all.map((p) => (
        <Text key={`${p.document}-${p.id}`} py="0.5">
          <Quiet mr="2" onClick={() => go(`/parts/${p.document}?part=${p.id}`)}>
            {p.label}
          </Quiet>
          <Text as="span" color="muted">
            {p.kind} in {p.path} of {p.project},{" "}
          </Text>
          {p.there ? (
            "there now"
          ) : (
            <Text as="span" color="loss">
              last seen {moment(p.last, props.zone, props.now)}
            </Text>
          )}
        </Text>
      ))}
    </Box>
  );
}
