import { Box, Flex, Progress, Text } from "@chakra-ui/react";
import { Loading, Side } from "../shared/parts";

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
        <Text>Stopped before it was done. Nothing of it was kept, nothing was touched.</Text>
        <Side onClick={props.onAgain}>Compare again</Side>
      </Flex>
    );
  }
  if (share === undefined) return <Loading what="Comparing part by part" />;
  return (
    <Box p="4" maxW="440px" fontSize="13px">
      <Text mb="2">
        These files are large. About {Math.round(share * 100)} % of them is read; you may go
        elsewhere meanwhile.
      </Text>
      <Progress.Root value={share * 100} size="sm" mb="3" aria-label="Share of the comparison made">
        <Progress.Track bg="raised">
          <Progress.Range bg="fir" />
        </Progress.Track>
      </Progress.Root>
      <Side onClick={props.onStop}>Stop comparing</Side>
    </Box>
  );
}
