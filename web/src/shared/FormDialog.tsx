import { Dialog, Field, Input, Portal } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { phrase } from "../words/phrase";

/** A question over the page: Enter does it, Escape leaves it. */
export function FormDialog(props: {
  open: boolean;
  onOpen: (open: boolean) => void;
  title: ReactNode;
  size?: "sm" | "md" | "xl";
  onSubmit: () => void;
  footer: ReactNode;
  children: ReactNode;
}) {
  return (
    <Dialog.Root
      open={props.open}
      size={props.size ?? "sm"}
      onOpenChange={(e) => props.onOpen(e.open)}
    >
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="ground" color="ink" asChild>
            <form
              onSubmit={(e) => {
                e.preventDefault();
                props.onSubmit();
              }}
            >
              <Dialog.Header>
                <Dialog.Title>{props.title}</Dialog.Title>
              </Dialog.Header>
              <Dialog.Body>{props.children}</Dialog.Body>
              <Dialog.Footer>{props.footer}</Dialog.Footer>
            </form>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}

export function NoteField(props: {
  note: string;
  onNote: (note: string) => void;
  placeholder: string;
}) {
  return (
    <Field.Root>
      <Field.Label>{phrase("shared.noteIfYouLike")}</Field.Label>
      <Input
        value={props.note}
        maxLength={500}
        borderColor="hairline"
        onChange={(e) => props.onNote(e.target.value)}
        placeholder={props.placeholder}
      />
    </Field.Root>
  );
}
