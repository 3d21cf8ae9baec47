import { Box, Flex, Text } from "@chakra-ui/react";
import type { ElsewhereView, StoreView } from "../api/elsewhere";
import { Printed } from "../shared/Printed";
import { fullDay } from "../shared/dates";
import { count, size } from "../shared/words";
import { useNow } from "../shared/useNow";

/** A line to be filled in with a pen. */
function ByHand({ what }: { what: string }) {
  return (
    <Flex gap="2" align="flex-end" mt="2" fontSize="13px">
      <Text whiteSpace="nowrap">{what}</Text>
      <Box flex="1" borderBottom="1px solid" borderColor="ink" minH="22px" />
    </Flex>
  );
}

const command = ({ store }: StoreView) =>
  [
    `./kavrin start --root FOLDER --from ${store.address.replace(/^file:\/\//, "")}`,
    store.service && `--service ${store.service}`,
    store.region && `--region ${store.region}`,
    store.key && `--key ${store.key}`,
    store.authority && `--authority ${store.authority}`,
    store.seal && `--passphrase ${store.seal}`,
  ]
    .filter(Boolean)
    .join(" ");

function OneStore({ view }: { view: StoreView }) {
  const { store, copies, bytes } = view;
  return (
    <Box mt="5" css={{ breakInside: "avoid" }}>
      <Text as="h2" fontSize="15px" fontWeight="650">
        {store.name}
      </Text>
      <Text fontSize="13px">
        {store.address.replace(/^file:\/\//, "")}
        {store.service && ` at ${store.service}`}. All names of this project begin with{" "}
        {store.begin}
      </Text>
      <Text fontSize="13px">
        {count(copies, "version")}, {size(bytes)} on that day.
      </Text>
      {store.key && (
        <>
          <ByHand what={`File ${store.key}:  access-key=`} />
          <ByHand what="secret-key=" />
        </>
      )}
      {store.authority && (
        <Text fontSize="13px" mt="2">
          Keep a copy of the certificate {store.authority} with this sheet.
        </Text>
      )}
      {store.seal && <ByHand what={`File ${store.seal}:  passphrase=`} />}
      <Text fontSize="13px" mt="3">
        On any machine with Kavrin, the files above laid beside it:
      </Text>
      <Text fontFamily="mono" fontSize="12px" overflowWrap="anywhere">
        {command(view)}
      </Text>
      <Text fontSize="13px" mt="2">
        {store.seal
          ? "Without Kavrin: each object is encrypted by AES-256-GCM; docs/formats.md says how, and web/tools/unseal.mjs opens one with nothing but Node."
          : "Without Kavrin: what lies under files/ are the files themselves, under readable names."}
      </Text>
    </Box>
  );
}

/** All one needs when the machine and the site are gone, to be printed and kept elsewhere. */
export function RecoverySheet(props: {
  name: string;
  view: ElsewhereView;
  zone: string;
  onBack: () => void;
}) {
  const now = useNow(60_000);
  return (
    <Printed back="Back to the copies" onBack={props.onBack}>
      <Text as="h1" fontSize="20px" fontWeight="650">
        Recovery sheet: {props.name}
      </Text>
      <Text fontSize="13px">
        As of {fullDay(now, props.zone)}. Fill in by hand what Kavrin never shows, and keep the
        paper at another place than the machine.
      </Text>
      {props.view.stores.map((s) => (
        <OneStore key={s.store.id} view={s} />
      ))}
    </Printed>
  );
}
