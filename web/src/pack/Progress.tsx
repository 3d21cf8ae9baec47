import { Box, Text } from "@chakra-ui/react";
import { useBundle, useStopPacking } from "../api/bundling";
import { PathText, Side } from "../shared/parts";
import { size } from "../shared/words";

const WORDS: Record<string, string> = {
  RUNNING: "Under way:",
  DONE: "Done.",
  CANCELLED: "Stopped. What is there stays; the same order goes on from there.",
  FAILED: "Not finished.",
};

/** The bundle that is being packed, or the last one. */
export function Progress() {
  const { data } = useBundle();
  const stop = useStopPacking();
  const bundle = data?.bundle;
  if (!bundle) return null;
  const running = bundle.stage === "RUNNING";
  return (
    <Box borderTop="1px solid" borderColor="hairline" pt="3" role="status" data-testid="bundle">
      <Text fontWeight="650" color={bundle.stage === "DONE" ? "fir" : running ? "ink" : "caution"}>
        {bundle.told ??
          (running && bundle.goesOn
            ? "Going on where it stopped; what is there already is read again:"
            : WORDS[bundle.stage])}
        {running && ` ${size(bundle.done)} of ${size(bundle.bytes)}`}
      </Text>
      {bundle.problem && <Text color="loss">{bundle.problem}</Text>}
      <PathText path={bundle.folder} />
      {running && (
        <Side size="xs" mt="1" loading={stop.isPending} onClick={() => stop.mutate()}>
          Stop
        </Side>
      )}
    </Box>
  );
}
