import { CloseButton, Dialog, Portal } from "@chakra-ui/react";
import { RestorePanel } from "./RestorePanel";

export function RestoreDialog(props: { document: string; state: string; onClose: () => void }) {
  return (
    <Dialog.Root open onOpenChange={(e) => !e.open && props.onClose()} size="md">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="ground" color="ink">
            <Dialog.Header>
              <Dialog.Title>Restore this state</Dialog.Title>
            </Dialog.Header>
            <Dialog.CloseTrigger asChild>
              <CloseButton size="sm" />
            </Dialog.CloseTrigger>
            <Dialog.Body pb="5">
              <RestorePanel document={props.document} state={props.state} />
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
