import { Input, NativeSelect } from "@chakra-ui/react";
import { type PlaceRequest, useKeyNames } from "../api/elsewhere";
import { Labelled, OneOf } from "../shared/fields";

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
    ? `A file in ${keys.data.folder} that only its owner reads: access-key=… and secret-key=…`
    : "";
  return (
    <>
      <OneOf
        label="Kind of store"
        size="xs"
        options={[
          { value: "bucket", words: "A bucket of an S3 service" },
          { value: "folder", words: "A mounted folder of another machine" },
        ]}
        value={place.kind}
        onChange={(kind: Kind) => set({ kind })}
      />
      <Labelled label={place.kind === "bucket" ? "Bucket, and what names begin with" : "Folder"}>
        <Input
          size="xs"
          fontFamily="mono"
          borderColor="hairline"
          placeholder={place.kind === "bucket" ? "bucket/begin" : "/mnt/…"}
          value={place.address}
          onChange={(e) => set({ address: e.target.value })}
        />
      </Labelled>
      {place.kind === "bucket" && (
        <>
          <Labelled label="Address of the service">
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
            label="Key"
            under={under}
            none="choose a key file"
            names={names}
            value={place.key}
            onChange={(key) => set({ key })}
          />
          <KeyFile
            label="Certificate that vouches for it"
            none="those this machine trusts"
            names={names}
            value={place.authority}
            onChange={(authority) => set({ authority })}
          />
        </>
      )}
      <KeyFile
        label="Encryption"
        under={
          keys.data
            ? "By a passphrase that lies in a file of the same folder: passphrase=… Without it nothing comes back; print the recovery sheet."
            : ""
        }
        none="not encrypted"
        names={names}
        value={place.seal}
        onChange={(seal) => set({ seal })}
      />
    </>
  );
}
