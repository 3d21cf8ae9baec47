import { Box, Flex } from "@chakra-ui/react";
import type { Project } from "../api/schema";
import { useApply } from "../api/queries";
import { Failure, Main, Side } from "../shared/parts";
import { useProfile } from "../start/useProfile";
import { WhatItDoes } from "../start/WhatItDoes";
import { toProfile } from "./profile";
import { phrase } from "../words/phrase";

/** Watches the program of a project at work, and proposes a profile to take over. */
export function WatchAtWork({ project, onDone }: { project: Project; onDone: () => void }) {
  const profile = useProfile(project.folder);
  const apply = useApply(project.id);
  const { form } = profile;
  const tells = form.process !== "" || form.leftovers.length > 0;
  return (
    <Box mt="3">
      <WhatItDoes profile={profile} at={{ folder: project.folder, rule: project.rule }} />
      <Failure error={apply.error} />
      <Flex gap="2" mt="3">
        <Main
          disabled={!tells}
          loading={apply.isPending}
          onClick={() =>
            apply.mutate(
              { version: project.version, plan: project.plan, program: toProfile(form) },
              { onSuccess: onDone },
            )
          }
        >
          {phrase("programs.useThisProfile")}
        </Main>
        <Side onClick={onDone}>{phrase("programs.leaveItAsItWas")}</Side>
      </Flex>
    </Box>
  );
}
