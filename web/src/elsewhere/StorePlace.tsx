import { Input, NativeSelect } from "@chakra-ui/react";
import { type PlaceRequest, useKeyNames } from "../api/elsewhere";
import { Labelled, OneOf } from "../shared/fields";
import { phrase } from "../words/phrase";

export type Kind = "bucket" | "folder";

export interface Place {
  kind: Kind;
  address: string;
  service: string;
  key: string;
  authority: string;
  seal: string;
}

export const NOWHERE: Place = {
  kind: "bucket",
  address: "",
  service: "",
  key: "",
  authority: "",
  seal: "",
};

/** As the form has it, of a store that was said when Kavrin was started. */
export const formOf = (said: PlaceRequest): Place => ({
  kind: said.address.startsWith("s3://") ? "bucket" : "folder",
  address: said.address.replace(/^s3:\/\//, ""),
  service: said.service ?? "",
  key: said.key ?? "",
  authority: said.authority ?? "",
  seal: said.seal ?? "",
});

/** What the service is asked with; undefined while something lacks. */
export function placeOf(place: Place): PlaceRequest | undefined {
  const address = place.address.trim();
  const sealed = place.seal !== "" && { seal: place.seal };
  if (place.kind === "folder") return address.startsWith("/") ? { address, ...sealed } : undefined;
  if (address === "" || place.service.trim() === "" || place.key === "") return undefined;
  return {
    address: `s3://${address.replace(/^s3:\/\//, "")}`,
    service: place.service.trim(),
    key: place.key,
    ...(place.authority !== "" && { authority: place.authority }),
    ...sealed,
  };
}

/** One of the files that lie with the keys, or none. */
function KeyFile(props: {
  label: string;
  under?: string;
  none: string;
  names: string[];
  value: string;
  onChange: (name: string) => void;
}) {
  return (
    <Labelled label={props.label} under={props.under ?? ""}>
      <NativeSelect.Root size="xs">
        <NativeSelect.Field
          aria-label={props.label}
          borderColor="hairline"
          value={props.value}
          onChange={(e) => props.onChange(e.target.value)}
        >
          <option value="">{props.none}</option>
          {props.names.map((n) => (
            <option key={n} value={n}>
              {n}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
    </Labelled>
  );
}

/** Says where a store is: a bucket of a service, or a folder of another machine. */
export function StorePlace(props: { place: Place; onChange: (place: Place) => void }) {
  const { place } = props;
  const keys = useKeyNames();
  const set = (changes: Partial<Place>) => props.onChange({ ...place, ...changes });
  const names = keys.data?.names ?? [];
  const under = keys.data
    ? phrase("elsewhere.aFileInThatOnlyIts", { folder: keys.data.folder })
    : "";
  return (
    <>
      <OneOf
        label={phrase("elsewhere.kindOfStore")}
        size="xs"
        options={[
          { value: "bucket", words: phrase("elsewhere.aBucketOfAnS3Service") },
          { value: "folder", words: phrase("elsewhere.aMountedFolderOfAnotherMachine") },
        ]}
        value={place.kind}
        onChange={(kind: Kind) => set({ kind })}
      />
      <Labelled
        label={
          place.kind === "bucket"
            ? phrase("elsewhere.bucketAndWhatNamesBeginWith")
            : phrase("common.folder")
        }
      >
        <Input
          size="xs"
          fontFamily="mono"
          borderColor="hairline"
          placeholder={place.kind === "bucket" ? phrase("elsewhere.bucketBegin") : "/mnt/…"}
          value={place.address}
          onChange={(e) => set({ address: e.target.value })}
        />
      </Labelled>
      {place.kind === "bucket" && (
        <>
          <Labelled label={phrase("elsewhere.addressOfTheService")}>
            <Input
              size="xs"
              fontFamily="mono"
              borderColor="hairline"
              placeholder="https://…"
              value={place.service}
              onChange={(e) => set({ service: e.target.value })}
            />
          </Labelled>
          <KeyFile
            label={phrase("elsewhere.key")}
            under={under}
            none={phrase("elsewhere.chooseAKeyFile")}
            names={names}
            value={place.key}
            onChange={(key) => set({ key })}
          />
          <KeyFile
            label={phrase("elsewhere.certificateThatVouchesForIt")}
            none={phrase("elsewhere.thoseThisMachineTrusts")}
            names={names}
            value={place.authority}
            onChange={(authority) => set({ authority })}
          />
        </>
      )}
      <KeyFile
        label={phrase("elsewhere.encryption")}
        under={keys.data ? phrase("elsewhere.byAPassphraseThatLiesIn") : ""}
        none={phrase("elsewhere.notEncrypted")}
        names={names}
        value={place.seal}
        onChange={(seal) => set({ seal })}
      />
    </>
  );
}
