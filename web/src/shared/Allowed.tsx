import { createContext, type ReactNode, useContext } from "react";
import { type Role, ROLE_WORDS, useMay } from "../api/people";
import { useWhere } from "../app/where";
import { Text } from "@chakra-ui/react";
import { phrase } from "../words/phrase";

/** A role, held in the project at hand or over everything. */
export interface Needed {
  needs: Role;
  over?: "everything" | undefined;
}

/** The project that what stands in it is about, where that is not the one in hand. */
export const OfProject = createContext<string | undefined>(undefined);

/** Whether the person may something in the project at hand. */
function useMayHere(): (role: Role) => boolean {
  const may = useMay();
  const inHand = useWhere().inHand?.project.id;
  const project = useContext(OfProject) ?? inHand;
  return (role) => may(role, project);
}

/** Shown to those who may do it. */
export function Allowed({ needs, over, children }: Needed & { children: ReactNode }) {
  const may = useMay();
  const here = useMayHere();
  return <>{(over ? may(needs) : here(needs)) && children}</>;
}

/** Why there is no button here, for those who may not do it. */
export function NotAllowed(props: { needs: Role; what: string; px?: string }) {
  const { needs, what, px } = props;
  if (useMayHere()(needs)) return null;
  return (
    <Text fontSize="13px" color="muted" px={px ?? "0"} py="1">
      {phrase("shared.needsTheRightToInThis", { what, roleWords: ROLE_WORDS[needs] })}
    </Text>
  );
}
