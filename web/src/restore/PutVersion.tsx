import { OneOf } from "../shared/fields";
import { Main } from "../shared/parts";

export type VersionMode = "REPLACE" | "NEXT" | "BESIDE";

const MODES: { value: VersionMode; words: string }[] = [
  { value: "REPLACE", words: "Put today's file aside and replace it" },
  { value: "NEXT", words: "Save as next number" },
  { value: "BESIDE", words: "Put beside" },
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
        label="Where the new version goes"
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
