import { CloseButton, Dialog, Portal } from "@chakra-ui/react";
import type { StateView } from "../api/schema";
import { Health } from "../shared/parts";
import { moment } from "../shared/dates";
import { size } from "../shared/words";
import { useWhere } from "../app/where";
import { CommandPanel } from "./CommandPanel";
import { LayoutPanel } from "./LayoutPanel";
import { RestorePanel } from "./RestorePanel";
import { TrialPanel } from "./TrialPanel";
import { phrase } from "../words/phrase";

export function RestoreDialog(props: {
  document: string;
  state: StateView;
  /** The document whose state it is, if it goes into another one. */
  of?: string;
  zone: string;
  now: number;
  onNext?: () => void;
  onClose: () => void;
}) {
  const { state } = props;
  const { inHand, all } = useWhere();
  const at = props.of ? undefined : all.find((d) => d.document.id === props.document);
  const own = at?.document;
  return (
    <Dialog.Root open onOpenChange={(e) => !e.open && props.onClose()} size="md">
      <Portal>
        <Dialog.Backdrop />
        <Dialog.Positioner>
          <Dialog.Content bg="ground" color="ink">
            <Dialog.Header>
              <Dialog.Title>
                {state.step
                  ? phrase("restore.layOutStepOfRunFrom", {
                      step: state.step.step,
                      run: state.step.run,
                    })
                  : phrase("restore.restoreTheWorkOf")}{" "}
                {moment(state.workTo, props.zone, props.now)}, {size(state.size)},{" "}
                <Health verdict={state.verdict} />
              </Dialog.Title>
            </Dialog.Header>
            <Dialog.CloseTrigger asChild>
              <CloseButton size="sm" />
            </Dialog.CloseTrigger>
            <Dialog.Body pb="5">
              {state.step ? (
                <LayoutPanel document={props.document} state={state} />
              ) : (
                <>
                  <RestorePanel
                    key={state.id}
                    document={props.document}
                    state={state.id}
                    {...(props.of && { of: props.of })}
                  />
                  <TrialPanel
                    key={`trial ${state.id}`}
                    document={props.of ?? props.document}
                    state={state}
                    program={inHand?.project.program ?? ""}
                    own={own}
                    onNext={props.onNext}
                  />
                </>
              )}
              <CommandPanel
                key={`command ${state.id}`}
                document={props.of ?? props.document}
                state={state}
              />
            </Dialog.Body>
          </Dialog.Content>
        </Dialog.Positioner>
      </Portal>
    </Dialog.Root>
  );
}
