import { Box, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, data } from "../api/client";
import { OneOf } from "../shared/fields";
import { Failure } from "../shared/parts";
import { size } from "../shared/words";
import { FolderPicker } from "./FolderPicker";
import { phrase } from "../words/phrase";

/** Folders backups of a work folder could go to, the best first. */
export function useBackupFolders(work: string) {
  return useQuery({
    queryKey: ["backup-folders", work],
    queryFn: () => data(api.GET("/api/folders/proposals", { params: { query: { work } } })),
    enabled: work !== "",
    retry: false,
  });
}

/** One of the proposed folders, or whatever one names. */
export function BackupFolder(props: {
  work: string;
  value: string;
  onChange: (path: string) => void;
}) {
  const proposals = useBackupFolders(props.work);
  // A proposal that came later would take the place of what is being typed.
  if (proposals.isPending)
    return (
      <Text role="status" fontSize="13px" color="muted" minH="100px">
        {phrase("start.lookingForAGoodPlace")}
      </Text>
    );
  return (
    <Box>
      <Failure error={proposals.error} />
      {proposals.data && proposals.data.length > 0 && (
        <Box mb="2">
          <OneOf
            label={phrase("start.proposedFolders")}
            column
            value={props.value}
            options={proposals.data.map((c) => ({
              value: c.path,
              words: (
                <>
                  <Text as="span" fontFamily="mono" fontSize="12px" wordBreak="break-all">
                    {c.path}
                  </Text>{" "}
                  <Text as="span" color="muted">
                    {phrase("start.free", {
                      disk: c.disk,
                      size: size(c.free),
                      made: c.exists ? "" : phrase("start.willBeMade"),
                    })}
                  </Text>
                </>
              ),
            }))}
            onChange={props.onChange}
          />
        </Box>
      )}
      <FolderPicker
        label={phrase("start.backupFolder")}
        value={props.value}
        onChange={props.onChange}
      />
    </Box>
  );
}
