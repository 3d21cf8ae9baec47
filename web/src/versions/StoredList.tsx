import { type StoredVersion, useFetchStored, useStoredVersions } from "../api/elsewhere";
import { Quiet } from "../shared/parts";
import { moment } from "../shared/dates";
import { count, size } from "../shared/words";
import { Behind, BehindRow } from "./Behind";
import { phrase } from "../words/phrase";

/** A step of a run comes whole, so how many files that is is said. */
const facts = (v: StoredVersion): string =>
  [
    ...(v.step === undefined
      ? []
      : [phrase("versions.step2", { step: v.step }), count(v.objects.length, "file")]),
    size(v.size),
    v.storeName,
    ...v.lacks,
    ...(v.leaving ? [phrase("versions.willBeDeletedThere")] : []),
  ].join(", ");

/** What no backup folder has any more, but a store elsewhere does. */
export function StoredList(props: { document: string; zone: string; now: number }) {
  const stored = useStoredVersions(props.document);
  const fetching = useFetchStored(props.document);
  const all = stored.data ?? [];
  if (all.length === 0) return null;
  return (
    <Behind
      label={phrase("versions.onlyElsewhere", { versions: count(all.length, "version") })}
      note={phrase("versions.noBackupFolderHasTheseWhole")}
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
            aria-label={phrase("versions.fetchTheVersionOf", {
              moment: moment(v.work, props.zone, props.now),
            })}
            onClick={() => {
              fetching.mutate({ store: v.store, state: v.state });
            }}
            loading={fetching.isPending && fetching.variables.state === v.state}
          >
            {phrase("versions.fetch")}
          </Quiet>
        </BehindRow>
      ))}
    </Behind>
  );
}
