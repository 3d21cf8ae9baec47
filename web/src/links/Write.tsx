import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type Choice, useRelink, useRelinkPreviews } from "../api/linking";
import { PutVersion, type VersionMode } from "../restore/PutVersion";
import { ReceiptCard } from "../restore/RestorePanel";
import { Failure, Notice } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

/** What choosing other names makes of the documents, proven to the side; and writing them. */
export function Write(props: { choices: Choice[]; onDone: () => void }) {
  const { choices, onDone } = props;
  const [mode, setMode] = useState<VersionMode>("REPLACE");
  const relink = useRelink(mode);
  const previews = useRelinkPreviews(choices, !relink.isPending);
  const versions = previews.flatMap((p) => (p.data ? [p.data] : []));
  const proven =
    versions.length > 0 &&
    versions.length === previews.length &&
    versions.every((v) => v.unequal.length === 0);
  const error = previews.find((p) => p.error)?.error ?? relink.error;
  if (relink.data && choices.length === 0) {
    return (
      <Flex direction="column" gap="3">
        {relink.data.map((view) => (
          <ReceiptCard key={view.id} view={view} />
        ))}
      </Flex>
    );
  }
  if (choices.length === 0) return null;
  return (
    <Flex direction="column" gap="2" fontSize="13px">
      <Text fontWeight="650">
        {phrase("links.in", {
          otherNames: count(choices.length, "other name"),
          documents: count(previews.length, "document"),
        })}
      </Text>
      {versions.map((v) => (
        <Box key={v.id} aria-label={phrase("links.preview")}>
          {v.renamed.map((r) => (
            <Text key={r.from} fontFamily="mono" fontSize="12px" wordBreak="break-all">
              {r.from} → {r.to}
              <Text as="span" fontFamily="body" color="muted">
                {phrase("links.in2", { places: count(r.places, "place") })}
              </Text>
            </Text>
          ))}
          {v.unequal.length === 0 ? (
            <Text color="fir">{phrase("links.writtenToTheSideAndRead")}</Text>
          ) : (
            <Notice tone="loss">
              {phrase("links.writtenToTheSideButNot", { unequal: v.unequal.join("; ") })}
            </Notice>
          )}
        </Box>
      ))}
      <Failure error={error} />
      <PutVersion
        mode={mode}
        disabled={!proven}
        loading={relink.isPending || previews.some((p) => p.isPending)}
        onMode={setMode}
        onPut={() => relink.mutate(versions, { onSuccess: onDone })}
      />
    </Flex>
  );
}
