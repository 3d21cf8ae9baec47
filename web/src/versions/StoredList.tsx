import { type StoredVersion, useFetchStored, useStoredVersions } from "../api/elsewhere";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { Behind, BehindRow } from "./Behind";

/** A step of a run comes whole, so how many files that is is said. */
const facts = (v: StoredVersion): string =>
  [
    ...(v.step === undefined ? [] : [`step ${v.step}`, count(v.objects.length, "file")]),
    size(v.size),
    v.storeName,
    ...v.lacks,
    ...(v.leaving ? ["will be deleted there"] : []),
  ].join(", ");

/** What no backup folder has any more, but a store elsewhere does. */
export function StoredList(props: { document: string; zone: string; now: number }) {
  const stored = useStoredVersions(props.document);
  const fetching = useFetchStored(props.document);
  const all = stored.data ?? [];
  if (all.length === 0) return null;
  return (
    <Behind
      label={`${count(all.length, "version")} only elsewhere`}
      note="No backup folder has these whole any more. A version that is fetched is pinned, so that the plan does not drop it again."
      error={fetching.error}
    >
      {all.map((v) => (
        <BehindRow
          key={`${v.store} ${v.state}`}
          name={moment(v.work, props.zone, props.now)}
          facts={facts(v)}
        >
          <Quiet
            needs="RESTORE"
            aria-label={`Fetch the version of ${moment(v.work, props.zone, props.now)}`}
            onClick={() => {
              fetching.mutate({ store: v.store, state: v.state });
            }}
            loading={fetching.isPending && fetching.variables.state === v.state}
          >
            Fetch
          </Quiet>
        </BehindRow>
      ))}
    </Behind>
  );
}
