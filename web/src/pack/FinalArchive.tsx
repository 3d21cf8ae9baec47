import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useArchive, useArchivePreview } from "../api/bundling";
import { Tick } from "../shared/fields";
import { Failure, Loading, Notice, PathText, Side } from "../shared/parts";
import { age, count, size } from "../shared/words";
import { asked } from "./asked";
import { phrase } from "../words/phrase";

/** Bytes packed and read back a second, as measured on two slow cores. */
const PACKED_A_SECOND = 25e6;

/** Everything that belongs to a project, smaller, not a bit lost, for when the work is over. */
export function FinalArchive(props: { project: string; name: string; note: string }) {
  const [open, setOpen] = useState(false);
  const [folder, setFolder] = useState("");
  const [allowed, setAllowed] = useState<string[]>([]);
  const preview = useArchivePreview(props.project, open);
  const archive = useArchive(props.project);
  const found = preview.data;
  const stays = (found?.asked ?? []).filter((a) => !allowed.includes(a.path));
  const bytes = found ? found.bytes - stays.reduce((sum, a) => sum + a.bytes, 0) : 0;
  return (
    <Box borderTop="1px solid" borderColor="hairline" pt="3" fontSize="13px">
      <Flex align="baseline" gap="2">
        <Text flex="1">{phrase("pack.isFinishedArchiveAllThatBelongs", { name: props.name })}</Text>
        <Side
          needs="PLAN"
          size="xs"
          aria-expanded={open}
          _expanded={{ bg: "raised" }}
          onClick={() => setOpen(!open)}
        >
          {phrase("pack.finalArchive")}
        </Side>
      </Flex>
      {open && preview.isPending && <Loading what={phrase("pack.lookingWhatThereIs")} />}
      {open && found && (
        <Flex direction="column" gap="2" mt="2">
          <Text>
            {phrase("pack.inItsFolderNothingIsTrimmed", {
              files: count(found.inFolder.files, "file"),
              size: size(found.inFolder.bytes),
              others:
                found.earlier.files > 0 &&
                phrase("pack.andOfEarlierVersionsThatLie", {
                  files: count(found.earlier.files, "file"),
                  size: size(found.earlier.bytes),
                }),
              age: age(Math.ceil(bytes / PACKED_A_SECOND) * 1000),
            })}
          </Text>
          {[...found.unreadable, ...found.unreachable].length > 0 && (
            <Notice tone="caution">
              {phrase("pack.cannotBeReadAndStaysOut", {
                files: [...found.unreadable, ...found.unreachable].join("; "),
              })}
            </Notice>
          )}
          {found.asked.map((a) => (
            <Box key={a.path}>
              <PathText path={a.path} />
              <Tick
                label={`${asked(a.why)}, ${size(a.bytes)}`}
                on={allowed.includes(a.path)}
                onChange={(on) =>
                  setAllowed((before) =>
                    on ? [...before, a.path] : before.filter((o) => o !== a.path),
                  )
                }
              />
            </Box>
          ))}
          <Flex
            as="form"
            gap="1.5"
            onSubmit={(e) => {
              e.preventDefault();
              archive.mutate({ folder: folder.trim(), allowed, note: props.note });
            }}
          >
            <Input
              size="xs"
              fontFamily="mono"
              aria-label={phrase("pack.folderOfTheArchive")}
              placeholder="/whole/path/of/a/new/folder"
              value={folder}
              onChange={(e) => setFolder(e.target.value)}
            />
            <Side
              size="xs"
              type="submit"
              loading={archive.isPending}
              disabled={!folder.trim().startsWith("/")}
            >
              {phrase("pack.archive", { size: size(bytes) })}
            </Side>
          </Flex>
        </Flex>
      )}
      <Failure error={preview.error ?? archive.error} />
    </Box>
  );
}
