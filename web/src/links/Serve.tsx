import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { LinkRow } from "../api/schema";
import { useBringBack, useCandidates } from "../api/linking";
import { ReceiptCard } from "../restore/RestorePanel";
import { Failure, Loading, Notice, PathText, Side } from "../shared/parts";
import { count, size } from "../shared/words";
import { phrase } from "../words/phrase";

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
            {phrase("links.usedBy", {
              otherDocuments: count(row.users.length, "other document"),
              users: row.users.length,
              names: row.users.join(", "),
            })}
          </Text>
        )}
      </Box>
      {!wanted && <Text color="fir">{phrase("links.itIsThereAsItWas")}</Text>}
      {row.absolute && row.status === "FOUND" && (
        <Side
          size="sm"
          alignSelf="flex-start"
          disabled={!row.canRelink}
          onClick={() => onChoose(row.file)}
        >
          {phrase("links.nameItByARelativePath")}
        </Side>
      )}
      {wanted && !row.canRelink && (
        <Notice tone="caution">{phrase("links.kavrinCannotWriteNamesIntoFiles")}</Notice>
      )}
      {wanted && candidates.isPending && <Loading what={phrase("links.lookingWhatMayServe")} />}
      <Failure error={candidates.error ?? back.error} />
      {candidates.data?.length === 0 && (
        <Text>
          {phrase("links.nothingInIsLikeIt", {
            where: within === "" ? phrase("links.theProject") : within,
          })}
        </Text>
      )}
      {back.data && <ReceiptCard view={back.data} />}
      <Box role="radiogroup" aria-label={phrase("links.whatServesInstead")}>
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
                  {c.state
                    ? phrase("links.theCopyKavrinHas")
                    : c.why.charAt(0).toUpperCase() + c.why.slice(1)}
                </Text>
                , {size(c.size)}
              </Text>
              {c.state ? (
                <Text color="muted">{phrase("links.broughtBackToWhereTheFile")}</Text>
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
                {phrase("common.bringItBack")}
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
                {choice === c.file ? phrase("links.chosen") : phrase("links.useIt")}
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
            aria-label={phrase("links.lookInAnotherFolder")}
            size="xs"
            fontFamily="mono"
            placeholder="/look/in/another/folder"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
          <Side size="xs" type="submit">
            {phrase("links.lookThere")}
          </Side>
        </Flex>
      )}
    </Flex>
  );
}
