import { CloseButton, Dialog, Portal, Table, Text } from "@chakra-ui/react";
import { useState } from "react";
import { Key, Side } from "../shared/parts";
import { keysAreOff, switchKeys } from "../shared/keys";

const KEYS: [string, string][] = [
  ["1 … 8", "the views"],
  ["n", "back up now"],
  ["[", "older version"],
  ["]", "newer version"],
  ["a", "set marker A on the chosen version"],
  ["b", "set marker B on the chosen version"],
  ["c", "compare A and B"],
  ["r", "restore the chosen version; in Recover: go to where that is decided"],
  ["p", "pin the chosen version, or unpin it"],
  ["k", "copy the path of the backup folder"],
  ["g", "go to the last version that has the chosen part"],
  ["b", "in the parts: bring the chosen part back"],
  ["t", "see what today's file becomes with the parts taken"],
  ["s", "point at a spot and see what used to be there"],
  ["v", "look at a comparison in another way"],
  ["g", "in Versions and Recover: recover several documents"],
  ["d", "the next document that went down in the same crash"],
  ["/", "find in the list"],
  ["?", "this list"],
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
              <Dialog.Title>Keys</Dialog.Title>
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
                Keys do nothing while you type in a field.
              </Text>
              <Side
                onClick={() => {
                  switchKeys(!off);
                  setOff(!off);
                }}
              >
                {off ? "Switch keys on" : "Switch keys off"}
              </Side>
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
