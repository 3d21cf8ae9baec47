import { Box, Text } from "@chakra-ui/react";
import { useBundle, useStopPacking } from "../api/bundling";
import { PathText, Side } from "../shared/parts";
import { size } from "../shared/words";
import { phrase } from "../words/phrase";

const WORDS: Record<string, string> = {
  RUNNING: phrase("pack.underWay"),
  DONE: phrase("pack.done"),
  CANCELLED: phrase("pack.stoppedWhatIsThereStaysThe"),
  FAILED: phrase("pack.notFinished"),
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
            ? phrase("pack.goingOnWhereItStoppedWhat")
            : WORDS[bundle.stage])}
        {running && ` ${phrase("pack.of", { size: size(bundle.done), size2: size(bundle.bytes) })}`}
      </Text>
      {bundle.problem && <Text color="loss">{bundle.problem}</Text>}
      <PathText path={bundle.folder} />
      {running && (
        <Side size="xs" mt="1" loading={stop.isPending} onClick={() => stop.mutate()}>
          {phrase("pack.stop")}
        </Side>
      )}
    </Box>
  );
}
