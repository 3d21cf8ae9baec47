import { Text } from "@chakra-ui/react";
import type { TrailView } from "../api/schema";
import { useStopAwaiting } from "../api/queries";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/words";

/** Why a live file has no newer copy: held on purpose, waited for, or in trouble. */
export function HowItStands(props: {
  document: string;
  live: TrailView["live"];
  now: number;
  zone: string;
}) {
  const stop = useStopAwaiting();
  const { live, now, zone } = props;
  if (!live) return null;
  return (
    <>
      {live.awaited && (
        <Text fontWeight="400" fontSize="12px">
          The next write is copied at once. Save in the program.{" "}
          <Quiet onClick={() => stop.mutate(props.document)}>stop waiting</Quiet>
        </Text>
      )}
      {live.heldBy && (
        <Text color="caution" fontWeight="400" fontSize="12px">
          Held on purpose since {moment(live.heldSince ?? now, zone, now)}: {live.heldBy}. No copy
          since{live.pendingSince ? ` the change of ${moment(live.pendingSince, zone, now)}` : ""}.
        </Text>
      )}
      {live.problem && (
        <Text color="caution" fontWeight="400" fontSize="12px">
          {live.problem}
        </Text>
      )}
    </>
  );
}
