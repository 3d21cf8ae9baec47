import { OneOf } from "../shared/fields";
import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useExport, useFormats } from "../api/bundling";
import { Failure, PathText, Side } from "../shared/parts";
import { size } from "../shared/words";
import { phrase } from "../words/phrase";

/** One state in another open format; what is lost is said first. */
export function OtherFormats(props: { document: string; state: string; name: string }) {
  const [open, setOpen] = useState(false);
  const [ending, setEnding] = useState<string>();
  const [folder, setFolder] = useState("");
  const formats = useFormats(props.document, props.state, open);
  const write = useExport(props.document, props.state);
  const chosen = formats.data?.find((f) => f.ending === ending) ?? formats.data?.[0];
  return (
    <Box borderTop="1px solid" borderColor="hairline" pt="3" fontSize="13px">
      <Flex align="baseline" gap="2">
        <Text flex="1">{phrase("pack.doesTheReceiverNeedAnotherFormat")}</Text>
        <Side
          size="xs"
          aria-expanded={open}
          _expanded={{ bg: "raised" }}
          onClick={() => setOpen(!open)}
        >
          {phrase("pack.otherFormats")}
        </Side>
      </Flex>
      {open && formats.data?.length === 0 && (
        <Text mt="2">{phrase("pack.canBeWrittenInNoOther", { name: props.name })}</Text>
      )}
      {open && chosen && (
        <Flex direction="column" gap="2" mt="2">
          <OneOf
            label={phrase("pack.format")}
            options={formats.data?.map((f) => ({ value: f.ending, words: f.format })) ?? []}
            value={chosen.ending}
            onChange={setEnding}
          />
          <Text color="caution">
            {phrase("pack.lostOnTheWay", { loses: chosen.loses.join("; ") })}
          </Text>
          <Flex
            as="form"
            gap="1.5"
            onSubmit={(e) => {
              e.preventDefault();
              write.mutate({ ending: chosen.ending, folder: folder.trim() });
            }}
          >
            <Input
              size="xs"
              fontFamily="mono"
              aria-label={phrase("pack.folderForTheOtherFormat")}
              placeholder="/whole/path/of/a/folder"
              value={folder}
              onChange={(e) => setFolder(e.target.value)}
            />
            <Side
              size="xs"
              type="submit"
              loading={write.isPending}
              disabled={!folder.trim().startsWith("/")}
            >
              {phrase("pack.writeIt")}
            </Side>
          </Flex>
          {write.data && (
            <Box role="status">
              <Text color="fir" fontWeight="650">
                {phrase("pack.written", { size: size(write.data.bytes) })}
              </Text>
              <PathText path={write.data.path} />
            </Box>
          )}
        </Flex>
      )}
      <Failure error={formats.error ?? write.error} />
    </Box>
  );
}
