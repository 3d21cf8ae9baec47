import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, data } from "../api/client";
import { Failure, Quiet, Side } from "../shared/parts";

/** A path to type, or to walk to. */
export function FolderPicker(props: {
  label: string;
  value: string;
  onChange: (path: string) => void;
}) {
  const [walking, setWalking] = useState<string>();
  const folder = useQuery({
    queryKey: ["folders", walking],
    queryFn: () =>
      data(api.GET("/api/folders", { params: { query: walking ? { path: walking } : {} } })),
    enabled: walking !== undefined,
  });
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
        <Side
          onClick={() => setWalking(walking === undefined ? "" : undefined)}
          aria-expanded={walking !== undefined}
        >
          look
        </Side>
      </Flex>
      {walking !== undefined && (
        <Box
          mt="1"
          border="1px solid"
          borderColor="hairline"
          maxH="200px"
          overflow="auto"
          p="2"
          fontSize="13px"
        >
          <Failure error={folder.error} />
          {folder.data && (
            <>
              <Flex gap="2" align="center" mb="1">
                <Text fontFamily="mono" fontSize="12px" flex="1">
                  {folder.data.path || "allowed folders"}
                </Text>
                {folder.data.parent !== undefined && (
                  <Quiet onClick={() => setWalking(folder.data.parent)}>up</Quiet>
                )}
                {folder.data.path && (
                  <Quiet
                    onClick={() => {
                      props.onChange(folder.data.path);
                      setWalking(undefined);
                    }}
                  >
                    take this one
                  </Quiet>
                )}
              </Flex>
              {folder.data.folders.map((f) => (
                <Box key={f}>
                  <Box
                    as="button"
                    fontFamily="mono"
                    fontSize="12px"
                    textDecoration="underline"
                    onClick={() => setWalking(f)}
                  >
                    {f.slice(f.lastIndexOf("/") + 1) || f}/
                  </Box>
                </Box>
              ))}
              <Text color="muted" fontSize="12px">
                {folder.data.path ? `${folder.data.files} files` : ""}
                {folder.data.folders.length === 0 ? " no folders in it" : ""}
              </Text>
            </>
          )}
        </Box>
      )}
    </Box>
  );
}
