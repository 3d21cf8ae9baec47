import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { BagReport } from "../api/schema";
import { useBundleCheck } from "../api/bundling";
import { Failure, Side } from "../shared/parts";
import { count } from "../shared/words";

function Named({ what, paths }: { what: string; paths: string[] }) {
  if (paths.length === 0) return null;
  return (
    <Text color="loss" wordBreak="break-all">
      {what}: {paths.slice(0, 8).join(", ")}
      {paths.length > 8 && ` and ${paths.length - 8} more`}
    </Text>
  );
}

function Report({ report }: { report: BagReport }) {
  return (
    <Box role="status" mt="2" data-testid="bag">
      <Text fontWeight="650" color={report.valid ? "fir" : "loss"}>
        {report.valid
          ? `Complete and valid: ${count(report.payload.length, "file")}, every digest is right.`
          : report.complete
            ? "Complete, but not as it was packed."
            : "Not complete."}
      </Text>
      <Named what="Altered" paths={report.altered} />
      <Named what="Missing" paths={report.missing} />
      <Named what="Extra" paths={report.extra} />
      {report.faults.map((f) => (
        <Text key={f} color="loss" wordBreak="break-word">
          {f}
        </Text>
      ))}
    </Box>
  );
}

/** Reads a bundle, from Kavrin or from any other writer of bags. */
export function CheckBundle() {
  const [folder, setFolder] = useState("");
  const check = useBundleCheck();
  return (
    <Box borderTop="1px solid" borderColor="hairline" pt="3">
      <Text mb="1">Is a bundle whole? Kavrin&apos;s, or of any other writer of bags.</Text>
      <Flex
        as="form"
        gap="1.5"
        onSubmit={(e) => {
          e.preventDefault();
          check.mutate(folder.trim());
        }}
      >
        <Input
          size="xs"
          fontFamily="mono"
          aria-label="Folder of the bundle"
          placeholder="/whole/path/of/a/bundle"
          value={folder}
          onChange={(e) => setFolder(e.target.value)}
        />
        <Side
          size="xs"
          type="submit"
          loading={check.isPending}
          disabled={!folder.trim().startsWith("/")}
        >
          Check
        </Side>
      </Flex>
      <Failure error={check.error} />
      {check.data && <Report report={check.data} />}
    </Box>
  );
}
