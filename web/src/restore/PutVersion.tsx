import { OneOf } from "../shared/fields";
import { Main } from "../shared/parts";
import { phrase } from "../words/phrase";

export type VersionMode = "REPLACE" | "NEXT" | "BESIDE";

const MODES: { value: VersionMode; words: string }[] = [
  { value: "REPLACE", words: phrase("restore.putTodaysFileAsideAndReplace") },
  { value: "NEXT", words: phrase("restore.saveAsNextNumber") },
  { value: "BESIDE", words: phrase("restore.putBeside") },
];

/** Where a new version of a document goes, and putting it there. */
export function PutVersion(props: {
  mode: VersionMode;
  disabled: boolean;
  loading: boolean;
  onMode: (mode: VersionMode) => void;
  onPut: () => void;
}) {
  return (
    <>
      <OneOf
        label={phrase("restore.whereTheNewVersionGoes")}
        options={MODES}
        value={props.mode}
        onChange={props.onMode}
      />
      <Main
        needs="RESTORE"
        alignSelf="flex-start"
        disabled={props.disabled}
        loading={props.loading}
        onClick={props.onPut}
      >
        {MODES.find((m) => m.value === props.mode)?.words}
      </Main>
    </>
  );
}
