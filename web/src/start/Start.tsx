import { Box, Field, Flex, Input, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import type { Look, Plan } from "../api/schema";
import { api, data } from "../api/client";
import { useChange, useOverview, usePlanDefaults, useSession } from "../api/queries";
import { useGo } from "../app/where";
import { NO_SHEET, toSheet } from "../programs/sheet";
import { SheetFields } from "../programs/SheetFields";
import { Failure, Main, Notice, PageHead, Quiet, Side } from "../shared/parts";
import { count, size } from "../shared/words";
import { FolderPicker } from "./FolderPicker";

function Step(props: { n: number; title: string; children: ReactNode }) {
  return (
    <Flex px="4" py="4" gap="4" borderBottom="1px solid" borderColor="hairline">
      <Text fontSize="18px" fontWeight="650" color="muted" w="24px">
        {props.n}
      </Text>
      <Box flex="1" maxW="760px">
        <Text as="h2" fontSize="16px" fontWeight="650" mb="2">
          {props.title}
        </Text>
        {props.children}
      </Box>
    </Flex>
  );
}

function Found({ look }: { look: Look }) {
  const [hidden, setHidden] = useState(false);
  return (
    <Box fontSize="13px" mt="2" role="status">
      <Text>
        {count(look.documents.length, "document")} found
        {look.documents.length > 0 && `: ${look.documents.slice(0, 6).join(", ")}`}
        {look.documents.length > 6 && ` and ${look.documents.length - 6} more`}.{" "}
        {count(look.backups, "file")} beside {look.backups === 1 ? "looks" : "look"} like a backup
        of them.
      </Text>
      {look.hidden.length > 0 && (
        <Text color="muted">
          {count(look.hidden.length, "hidden file")}{" "}
          <Quiet onClick={() => setHidden(!hidden)}>{hidden ? "leave them" : "show"}</Quiet>
        </Text>
      )}
      {hidden && (
        <Box fontFamily="mono" fontSize="12px" color="muted" maxH="120px" overflow="auto">
          {look.hidden.map((h) => (
            <Text key={h}>{h}</Text>
          ))}
        </Box>
      )}
      {look.unaddressable > 0 && (
        <Text color="caution">
          {count(look.unaddressable, "file")} cannot be addressed: the name is no readable text.
        </Text>
      )}
      {look.unreadable > 0 && (
        <Text color="caution">{count(look.unreadable, "folder")} could not be looked into.</Text>
      )}
    </Box>
  );
}

/** One page: where the work lies, what its program leaves, where copies go. */
export function Start() {
  const session = useSession();
  const { go } = useGo();
  const [folder, setFolder] = useState("");
  const [name, setName] = useState("");
  const [rule, setRule] = useState("*.glb");
  const [sheet, setSheet] = useState(NO_SHEET);
  const defaults = usePlanDefaults();
  const [chosen, setRecovery] = useState<string>();
  const usual = useOverview().data?.projects[0]?.recovery;
  const recovery = chosen ?? usual ?? "";
  const globs = rule.split(/[ ,]+/).filter(Boolean);

  const look = useQuery({
    queryKey: ["look", folder, rule],
    queryFn: () => data(api.POST("/api/projects/look", { body: { folder, rule: globs } })),
    enabled: folder.startsWith("/") && globs.length > 0,
    retry: false,
  });
  const check = useQuery({
    queryKey: ["check", recovery, folder],
    queryFn: () =>
      data(
        api.POST("/api/places/check", { body: { path: recovery, role: "RECOVERY", work: folder } }),
      ),
    enabled: recovery.startsWith("/") && look.isSuccess,
    retry: false,
  });
  const create = useChange(() =>
    data(
      api.POST("/api/projects", {
        body: {
          name: name.trim() || folder.slice(folder.lastIndexOf("/") + 1),
          folder,
          rule: globs,
          program: toSheet(sheet),
          recovery,
          plan: defaults.data?.usual as Plan,
        },
      }),
    ),
  );
  const adopt = useChange((path: string) =>
    data(api.POST("/api/projects/adopt", { body: { recovery: path } })),
  );
  const ready = look.isSuccess && defaults.isSuccess && check.data?.faults.length === 0;
  return (
    <Box>
      <PageHead
        title="Where does your work lie?"
        under={`Kavrin may use folders under ${session.data?.roots.join(", ") ?? ""}. Others are allowed with ./kavrin start --root FOLDER.`}
      />
      <Step n={1} title="The folder with your files">
        <FolderPicker label="Folder with your files" value={folder} onChange={setFolder} />
        <Flex gap="3" mt="3">
          <Field.Root w="260px">
            <Field.Label fontSize="13px">Name of the project</Field.Label>
            <Input
              size="sm"
              borderColor="hairline"
              value={name}
              maxLength={120}
              onChange={(e) => setName(e.target.value)}
              placeholder={folder.slice(folder.lastIndexOf("/") + 1)}
            />
          </Field.Root>
          <Field.Root w="260px">
            <Field.Label fontSize="13px">These are documents</Field.Label>
            <Input
              size="sm"
              fontFamily="mono"
              borderColor="hairline"
              value={rule}
              onChange={(e) => setRule(e.target.value)}
            />
            <Field.HelperText fontSize="12px" color="muted">
              names with * for anything; new ones join by themselves
            </Field.HelperText>
          </Field.Root>
        </Flex>
        <Failure error={look.error} />
        {look.data && <Found look={look.data} />}
      </Step>
      <Step n={2} title="What its program leaves behind, as far as you know">
        <SheetFields form={sheet} onChange={setSheet} />
      </Step>
      <Step n={3} title="Where copies go">
        <FolderPicker label="Recovery folder" value={recovery} onChange={setRecovery} />
        <Failure error={check.error} />
        {check.data && (
          <Box fontSize="13px" mt="2" role="status">
            <Text>
              {check.data.exists ? "It exists" : "It will be made"}, {size(check.data.free)} free,{" "}
              {check.data.disk}.
            </Text>
            {check.data.faults.map((f) => (
              <Text key={f} color="loss">
                ✕ {f}
              </Text>
            ))}
            {check.data.cautions.map((c) => (
              <Text key={c} color="caution">
                ▲ {c}
              </Text>
            ))}
            {check.data.holdsCopies && (
              <Notice tone="fir">
                Copies lie there already.{" "}
                <Side
                  size="xs"
                  loading={adopt.isPending}
                  onClick={() => adopt.mutate(recovery, { onSuccess: () => go("/overview") })}
                >
                  Take in its projects
                </Side>
              </Notice>
            )}
            <Failure error={adopt.error} />
          </Box>
        )}
        <Text fontSize="13px" color="muted" my="3">
          It begins with a copy at most 10 min after a change, the newest 24 kept. The plan page
          shows what that costs and lets you change it.
        </Text>
        <Failure error={create.error} />
        <Main
          disabled={!ready}
          loading={create.isPending}
          onClick={() => create.mutate(undefined, { onSuccess: () => go("/plan") })}
        >
          Watch this folder
        </Main>
      </Step>
    </Box>
  );
}
