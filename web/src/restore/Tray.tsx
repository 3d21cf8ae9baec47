import { Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useKeys } from "../shared/keys";
import { Key, Main, Quiet } from "../shared/parts";
import { moment } from "../shared/dates";
import { count } from "../shared/words";
import { PartsDialog } from "./PartsDialog";
import { useTray } from "./tray";
import { phrase } from "../words/phrase";

/** What was picked to be brought into the file of today, and the way to do it. */
export function Tray({ document, zone, now }: { document: string; zone: string; now: number }) {
  const tray = useTray(document);
  const [open, setOpen] = useState(false);
  useKeys({ t: () => setOpen(tray.picks.length > 0) });
  return (
    <>
      {tray.picks.length > 0 && (
        <Flex
          direction="column"
          gap="1.5"
          p="3"
          borderTop="1px solid"
          borderColor="hairline"
          bg="raised"
          role="region"
          aria-label={phrase("restore.partsToBringIntoTodaysFile")}
          fontSize="13px"
        >
          {tray.picks.map((pick) => (
            <Flex key={pick.part} gap="2" align="center">
              <Text flex="1" minW="0" truncate title={pick.part}>
                {pick.label}{" "}
                <Text as="span" color="muted" fontSize="12px">
                  {phrase("restore.of", { moment: moment(pick.work, zone, now) })}
                </Text>
              </Text>
              <Quiet
                aria-label={phrase("restore.leaveOut", { label: pick.label })}
                onClick={() => tray.remove(pick)}
              >
                {phrase("restore.leaveOut2")}
              </Quiet>
            </Flex>
          ))}
          <Main needs="RESTORE" alignSelf="flex-start" onClick={() => setOpen(true)}>
            {phrase("restore.bringIntoTodaysFile", { parts: count(tray.picks.length, "part") })}{" "}
            <Key>t</Key>
          </Main>
        </Flex>
      )}
      {open && <PartsDialog document={document} onClose={() => setOpen(false)} />}
    </>
  );
}
