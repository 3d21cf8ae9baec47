import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, data } from "../api/client";
import { Failure, Quiet, Side } from "../shared/parts";
import { count } from "../shared/words";
import { phrase } from "../words/phrase";

const nameOf = (path: string) => path.slice(path.lastIndexOf("/") + 1) || path;

/** Folders in a folder, or the allowed ones; going into one chooses it. */
export function FolderList(props: { at: string; onGo: (path: string) => void }) {
  const folder = useQuery({
    queryKey: ["folders", props.at],
    queryFn: () =>
      data(api.GET("/api/browse", { params: { query: props.at ? { path: props.at } : {} } })),
    retry: false,
    placeholderData: (before) => before,
  });
  const seen = folder.data;
  const plain = (path: string) => !nameOf(path).startsWith(".");
  const shown = seen?.folders.filter(plain) ?? [];
  return (
    <Box border="1px solid" borderColor="hairline" mt="1" fontSize="13px">
      <Failure error={folder.error} />
      <Flex gap="2" align="center" px="2" py="1" borderBottom="1px solid" borderColor="hairline">
        <Text fontFamily="mono" fontSize="12px" flex="1" minW="0" truncate>
          {seen?.path || phrase("start.foldersKavrinMayUse")}
        </Text>
        {seen?.parent !== undefined && (
          <Quiet onClick={() => props.onGo(seen.parent ?? "")}>{phrase("start.up")}</Quiet>
        )}
      </Flex>
      <Box
        as="ul"
        listStyleType="none"
        h="92px"
        overflow="auto"
        px="2"
        py="1"
        tabIndex={0}
        aria-label={phrase("start.folders")}
      >
        {shown.map((f) => (
          <Box as="li" key={f}>
            <Box
              as="button"
              fontFamily="mono"
              fontSize="12px"
              py="0.5"
              textDecoration="underline"
              textAlign="left"
              wordBreak="break-all"
              onClick={() => props.onGo(f)}
            >
              {seen?.path ? nameOf(f) : f}/
            </Box>
          </Box>
        ))}
        {seen && (
          <Text as="li" color="muted" fontSize="12px">
            {shown.length === 0 && `${phrase("start.noFoldersInIt")} `}
            {seen.path && phrase("start.inIt", { files: count(seen.files, "file") })}
          </Text>
        )}
      </Box>
    </Box>
  );
}

/** A path to type, or to walk to. */
export function FolderPicker(props: {
  label: string;
  value: string;
  onChange: (path: string) => void;
  /** Folders are listed from the beginning. */
  open?: boolean;
}) {
  const [walking, setWalking] = useState(props.open ?? false);
  return (
    <Box>
      <Flex gap="2">
        <Input
          size="sm"
          fontFamily="mono"
          fontSize="13px"
          borderColor="hairline"
          aria-label={props.label}
          value={props.value}
          placeholder="/srv/…"
          onChange={(e) => props.onChange(e.target.value)}
        />
        {!props.open && (
          <Side onClick={() => setWalking(!walking)} aria-expanded={walking}>
            {phrase("start.browse")}
          </Side>
        )}
      </Flex>
      {walking && <FolderList at={props.value.replace(/(.)\/$/, "$1")} onGo={props.onChange} />}
    </Box>
  );
}
