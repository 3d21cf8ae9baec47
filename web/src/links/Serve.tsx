import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { LinkRow } from "../api/schema";
import { useBringBack, useCandidates } from "../api/linking";
import { ReceiptCard } from "../restore/RestorePanel";
import { Failure, Loading, Notice, PathText, Side } from "../shared/parts";
import { count, size } from "../shared/words";

/** What may serve for one link: files that stand, likeliest first, or the copy that is held. */
export function Serve(props: {
  row: LinkRow;
  choice: string | undefined;
  onChoose: (file: string | undefined) => void;
}) {
  const { row, choice, onChoose } = props;
  const [typed, setTyped] = useState("");
  const [within, setWithin] = useState("");
  const wanted = row.status !== "FOUND" || row.absolute;
  const candidates = useCandidates(row.document, row.uri, within, wanted);
  const back = useBringBack();
  return (
    <Flex direction="column" gap="3" fontSize="13px">
      <Box>
        <Text fontWeight="650">{row.uri.split(/[\\/]/).pop()}</Text>
        <PathText path={row.file} />
        {row.users.length > 0 && (
          <Text color="muted">
            {count(row.users.length, "other document")} {row.users.length === 1 ? "uses" : "use"}{" "}
            it: {row.users.join(", ")}.
          </Text>
        )}
      </Box>
      {!wanted && <Text color="fir">It is there, as it was.</Text>}
      {row.absolute && row.status === "FOUND" && (
        <Side
          size="sm"
          alignSelf="flex-start"
          disabled={!row.canRelink}
          onClick={() => onChoose(row.file)}
        >
          Name it by a relative path
        </Side>
      )}
      {wanted && !row.canRelink && (
        <Notice tone="caution">
          Kavrin cannot write names into files of this kind. Put the file back where it was, or name
          another in the program.
        </Notice>
      )}
      {wanted && candidates.isPending && <Loading what="Looking what may serve" />}
      <Failure error={candidates.error ?? back.error} />
      {candidates.data?.length === 0 && (
        <Text>Nothing in {within === "" ? "the project" : within} is like it.</Text>
      )}
      {back.data && <ReceiptCard view={back.data} />}
      <Box role="radiogroup" aria-label="What serves instead">
        {candidates.data?.map((c) => (
          <Flex
            key={`${c.file} ${c.state ?? ""}`}
            borderTop="1px solid"
            borderColor="hairline"
            py="1.5"
            gap="2"
            align="flex-start"
          >
            <Box flex="1" minW="0">
              <Text>
                <Text as="span" fontWeight="650">
                  {c.state ? "The copy Kavrin has" : c.why.charAt(0).toUpperCase() + c.why.slice(1)}
                </Text>
                , {size(c.size)}
              </Text>
              {c.state ? (
                <Text color="muted">brought back to where the file was; no document changes</Text>
              ) : (
                <PathText path={c.file} />
              )}
              {c.told !== "" && <Text color="caution">{c.told}</Text>}
            </Box>
            {c.state && c.linked ? (
              <Side
                needs="RESTORE"
                size="xs"
                loading={back.isPending}
                onClick={() => back.mutate({ linked: c.linked ?? "", state: c.state ?? "" })}
              >
                Bring it back
              </Side>
            ) : (
              <Side
                size="xs"
                role="radio"
                aria-checked={choice === c.file}
                bg={choice === c.file ? "raised" : undefined}
                disabled={!row.canRelink}
                onClick={() => onChoose(choice === c.file ? undefined : c.file)}
              >
                {choice === c.file ? "Chosen" : "Use it"}
              </Side>
            )}
          </Flex>
        ))}
      </Box>
      {wanted && (
        <Flex
          as="form"
          gap="1.5"
          onSubmit={(e) => {
            e.preventDefault();
            setWithin(typed.trim());
          }}
        >
          <Input
            aria-label="Look in another folder"
            size="xs"
            fontFamily="mono"
            placeholder="/look/in/another/folder"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Side size="xs" type="submit">
            Look there
          </Side>
        </Flex>
      )}
    </Flex>
  );
}
