import { Box, Flex, Progress, Text } from "@chakra-ui/react";
import { Loading, Side } from "../shared/parts";
import { phrase } from "../words/phrase";

/** A comparison that is being made, how far it is, and a way to stop it. */
export function Comparing(props: {
  share: number | undefined;
  running: boolean;
  onStop: () => void;
  onAgain: () => void;
}) {
  const { share } = props;
  if (!props.running) {
    return (
      <Flex p="4" gap="3" align="center" role="status">
        <Text>{phrase("compare.stoppedBeforeItWasDoneNothing")}</Text>
        <Side onClick={props.onAgain}>{phrase("compare.compareAgain")}</Side>
      </Flex>
    );
  }
  if (share === undefined) return <Loading what={phrase("compare.comparingPartByPart")} />;
  return (
    <Box p="4" maxW="440px" fontSize="13px">
      <Text mb="2">
        {phrase("compare.theseFilesAreLargeAboutOf", { percent: Math.round(share * 100) })}
      </Text>
      <Progress.Root
        value={share * 100}
        size="sm"
        mb="3"
        aria-label={phrase("compare.shareOfTheComparisonMade")}
      >
        <Progress.Track bg="raised">
          <Progress.Range bg="fir" />
        </Progress.Track>
      </Progress.Root>
      <Side onClick={props.onStop}>{phrase("compare.stopComparing")}</Side>
    </Box>
  );
}
