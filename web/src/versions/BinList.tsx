import type { BinnedCopy } from "../api/schema";
import { useTakeBack } from "../api/queries";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { Behind, BehindRow } from "./Behind";
import { phrase } from "../words/phrase";

/** What the plan dropped and can still be had back. */
export function BinList(props: { document: string; bin: BinnedCopy[]; zone: string; now: number }) {
  const takeBack = useTakeBack(props.document);
  if (props.bin.length === 0) return null;
  const bytes = props.bin.reduce((sum, c) => sum + c.size, 0);
  return (
    <Behind
      label={phrase("versions.inTheBin", {
        droppedBackups: count(props.bin.length, "dropped backup"),
        size: size(bytes),
      })}
      note={phrase("versions.goneForGood14DaysAfter")}
      error={takeBack.error}
    >
      {props.bin.map((c) => (
        <BehindRow
          key={c.id}
          name={c.name}
          facts={`${size(c.size)}, ${moment(c.since, props.zone, props.now)}`}
        >
          <Quiet
            needs="RESTORE"
            onClick={() => takeBack.mutate(c.bin)}
            loading={takeBack.isPending}
          >
            {phrase("versions.restore")}
          </Quiet>
        </BehindRow>
      ))}
    </Behind>
  );
}
