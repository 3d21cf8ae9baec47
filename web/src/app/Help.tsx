import { CloseButton, Dialog, Portal, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import { Key, Side } from "../shared/parts";
import { keysAreOff, switchKeys } from "../shared/keys";
import { phrase } from "../words/phrase";

const KEYS: [string, string][] = [
  ["1 … 8", phrase("app.theViews")],
  ["n", phrase("app.backUpNow")],
  ["[", phrase("app.olderVersion")],
  ["]", phrase("app.newerVersion")],
  ["a", phrase("app.setMarkerAOnTheChosen")],
  ["b", phrase("app.setMarkerBOnTheChosen")],
  ["c", phrase("app.compareAAndB")],
  ["r", phrase("app.restoreTheChosenVersionInRecover")],
  ["p", phrase("app.pinTheChosenVersionOrUnpin")],
  ["k", phrase("app.copyThePathOfTheBackup")],
  ["g", phrase("app.goToTheLastVersionThat")],
  ["b", phrase("app.inThePartsBringTheChosen")],
  ["t", phrase("app.seeWhatTodaysFileBecomesWith")],
  ["s", phrase("app.pointAtASpotAndSee")],
  ["v", phrase("app.lookAtAComparisonInAnother")],
  ["g", phrase("app.inVersionsAndRecoverRecoverSeveral")],
  ["d", phrase("app.theNextDocumentThatWentDown")],
  ["/", phrase("app.findInTheList")],
  ["?", phrase("app.thisList")],
];

export function Help({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [off, setOff] = useState(keysAreOff());
  return (
    <Dialog.Root open={open} onOpenChange={(e) => !e.open && onClose()} size="sm">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="ground" color="ink">
            <Dialog.Header>
              <Dialog.Title>{phrase("app.keys")}</Dialog.Title>
            </Dialog.Header>
            <Dialog.CloseTrigger asChild>
              <CloseButton size="sm" />
            </Dialog.CloseTrigger>
            <Dialog.Body>
              <Table.Root size="sm">
                <Table.Body>
                  {KEYS.map(([key, what]) => (
                    <Table.Row key={what} bg="transparent">
                      <Table.Cell>
                        <Key>{key}</Key>
                      </Table.Cell>
                      <Table.Cell>{what}</Table.Cell>
                    </Table.Row>
                  ))}
                </Table.Body>
              </Table.Root>
              <Text color="muted" fontSize="13px" my="3">
                {phrase("app.keysDoNothingWhileYouType")}
              </Text>
              <Side
                onClick={() => {
                  switchKeys(!off);
                  setOff(!off);
                }}
              >
                {off ? phrase("app.switchKeysOn") : phrase("app.switchKeysOff")}
              </Side>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
