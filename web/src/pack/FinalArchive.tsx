import { Box, Flex, Input, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useArchive, useArchivePreview } from "../api/bundling";
import { Tick } from "../shared/fields";
import { Failure, Loading, Notice, Side } from "../shared/parts";
import { count, size } from "../shared/words";

/** Everything in a project's folder, smaller, not a bit lost, for when the work is over. */
export function FinalArchive(props: { project: string; name: string; note: string }) {
  const [open, setOpen] = useState(false);
  const [folder, setFolder] = useState("");
  const [allowed, setAllowed] = useState<string[]>([]);
  const preview = useArchivePreview(props.project, open);
  const archive = useArchive(props.project);
  const found = preview.data;
  return (
    <Box borderTop="1px solid" borderColor="hairline" pt="3" fontSize="13px">
      <Flex align="baseline" gap="2">
        <Text flex="1">Is {props.name} finished? Archive all of its folder.</Text>
        <Side
          size="xs"
          aria-expanded={open}
          _expanded={{ bg: "raised" }}
          onClick={() => setOpen(!open)}
        >
          Final archive
        </Side>
      </Flex>
      {open && preview.isPending && <Loading what="Looking what there is" />}
      {open && found && (
        <Flex direction="column" gap="2" mt="2">
          <Text>
            {count(found.files, "file")}, {size(found.bytes)}: nothing is trimmed. Plain pictures
            become PNG, the rest is packed where that pays, and every file is read back bit for bit.
            Reading it twice takes about {Math.max(1, Math.round(found.bytes / 100e6))} s.
          </Text>
          {found.unreadable.length > 0 && (
            <Notice tone="caution">
              Cannot be looked into and stays out: {found.unreadable.join(", ")}
            </Notice>
          )}
          {found.secrets.map((s) => (
            <Tick
              key={s}
              label={`${s}: by its name it holds a secret; take it along`}
              on={allowed.includes(s)}
              onChange={(on) =>
                setAllowed((before) => (on ? [...before, s] : before.filter((o) => o !== s)))
              }
            />
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
              aria-label="Folder of the archive"
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
              Archive {size(found.bytes)}
            </Side>
          </Flex>
        </Flex>
      )}
      <Failure error={preview.error ?? archive.error} />
    </Box>
  );
}
