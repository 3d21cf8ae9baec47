import { Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useBringArchiveBack } from "../api/bundling";
import { Failure, Side } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

/** The way back from a final archive: every file under its own name. */
export function BringArchiveBack(props: { folder: string; files: number }) {
  const [into, setInto] = useState("");
  const back = useBringArchiveBack();
  return (
    <>
      <Text mt="2">
        {phrase("pack.itIsAFinalArchiveOf", { files: count(props.files, "file") })}
      </Text>
      <Flex
        as="form"
        gap="1.5"
        onSubmit={(e) => {
          e.preventDefault();
          back.mutate({ folder: props.folder, into: into.trim() });
        }}
      >
        <Input
          size="xs"
          fontFamily="mono"
          aria-label={phrase("pack.bringItBackInto")}
          placeholder="/whole/path/of/a/new/folder"
          value={into}
          onChange={(e) => setInto(e.target.value)}
        />
        <Side
          size="xs"
          type="submit"
          loading={back.isPending}
          disabled={!into.trim().startsWith("/")}
        >
          {phrase("common.bringItBack")}
        </Side>
      </Flex>
      <Failure error={back.error} />
    </>
  );
}
