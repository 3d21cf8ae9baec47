import { Box, Flex, Text } from "@chakra-ui/react";
import type { ElsewhereView, StoreView } from "../api/elsewhere";
import { Printed } from "../shared/Printed";
import { fullDay } from "../shared/dates";
import { count, size } from "../shared/words";
import { useNow } from "../shared/useNow";
import { phrase } from "../words/phrase";

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
        {phrase("elsewhere.allNamesOfThisProjectBegin", {
          address: store.address.replace(/^file:\/\//, ""),
          service: store.service && ` ${phrase("elsewhere.at", { service: store.service })}`,
          begin: store.begin,
        })}
      </Text>
      <Text fontSize="13px">
        {phrase("elsewhere.onThatDay", { versions: count(copies, "version"), size: size(bytes) })}
      </Text>
      {store.key && (
        <>
          <ByHand what={phrase("elsewhere.fileAccessKey", { key: store.key })} />
          <ByHand what="secret-key=" />
        </>
      )}
      {store.authority && (
        <Text fontSize="13px" mt="2">
          {phrase("elsewhere.keepACopyOfTheCertificate", { authority: store.authority })}
        </Text>
      )}
      {store.seal && <ByHand what={phrase("elsewhere.filePassphrase", { seal: store.seal })} />}
      <Text fontSize="13px" mt="3">
        {phrase("elsewhere.onAnyMachineWithKavrinThe")}
      </Text>
      <Text fontFamily="mono" fontSize="12px" overflowWrap="anywhere">
        {command(view)}
      </Text>
      <Text fontSize="13px" mt="2">
        {store.seal
          ? phrase("elsewhere.withoutKavrinEachObjectIsEncrypted")
          : phrase("elsewhere.withoutKavrinWhatLiesUnderFiles")}
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
    <Printed back={phrase("elsewhere.backToTheCopies")} onBack={props.onBack}>
      <Text as="h1" fontSize="20px" fontWeight="650">
        {phrase("elsewhere.recoverySheet2", { name: props.name })}
      </Text>
      <Text fontSize="13px">
        {phrase("elsewhere.asOfFillInByHand", { fullDay: fullDay(now, props.zone) })}
      </Text>
      {props.view.stores.map((s) => (
        <OneStore key={s.store.id} view={s} />
      ))}
    </Printed>
  );
}
