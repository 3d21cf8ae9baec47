import { Flex, Text } from "@chakra-ui/react";
import { Link } from "react-router";
import type { VersionsView } from "../api/schema";
import { useGoOn, useUndo } from "../api/queries";
import { Failure, PathText, Quiet } from "../shared/parts";
import { phrase } from "../words/phrase";

const file = (path: string) => path.slice(path.lastIndexOf("/") + 1);

/** The save-as chain, and the two ways to leave the present file as it is and go on beside it. */
export function GoOn({ trail }: { trail: VersionsView }) {
  const goOn = useGoOn(trail.document);
  const undo = useUndo();
  const made = goOn.data && !undo.data ? goOn.data : undefined;
  return (
    <Flex align="baseline" gap="2" fontSize="12px" color="muted" wrap="wrap">
      {trail.chain.length > 1 && (
        <Text as="span">
          {phrase("versions.chain")}{" "}
          {trail.chain.map((link) =>
            link.id === trail.document ? (
              <Text as="span" key={link.id} fontWeight="650" color="ink" mr="2">
                {file(link.name)}
              </Text>
            ) : (
              <Link key={link.id} to={`/versions/${link.id}`} style={{ marginRight: "8px" }}>
                {file(link.name)}
              </Link>
            ),
          )}
        </Text>
      )}
      {trail.live?.present && (
        <>
          {phrase("versions.goOnUnderTheNextNumber", {
            b: (text) => (
              <Quiet needs="RESTORE" loading={goOn.isPending} onClick={() => goOn.mutate("NEXT")}>
                {text}
              </Quiet>
            ),
            b2: (text) => (
              <Quiet needs="RESTORE" loading={goOn.isPending} onClick={() => goOn.mutate("BRANCH")}>
                {text}
              </Quiet>
            ),
          })}
        </>
      )}
      {made && (
        <Text as="span" role="status" color="ink">
          {phrase("versions.openThisInYourProgramRemove", {
            pathText: <PathText path={made.receipt.target} />,
            b: (text) => (
              <Quiet needs="RESTORE" loading={undo.isPending} onClick={() => undo.mutate(made.id)}>
                {text}
              </Quiet>
            ),
          })}
        </Text>
      )}
      <Failure error={goOn.error ?? undo.error} />
    </Flex>
  );
}

/** The document a trial was branched off from, by its name: "carriage-02-trial.glb". */
export function trialOf<D extends { name: string }>(
  name: string,
  documents: readonly D[],
): D | undefined {
  const trial = /^(.*)-trial(?:-\d+)?(\.[^./]*)?$/.exec(name);
  return trial ? documents.find((d) => d.name === (trial[1] ?? "") + (trial[2] ?? "")) : undefined;
}
