import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { CarriedDifference } from "../api/schema";
import { useCompareSettings, useImportSettings } from "../api/queries";
import { Tick } from "../shared/fields";
import { Failure, Main, Side } from "../shared/parts";
import { FileButton } from "../shared/FileButton";
import { phrase } from "../words/phrase";

/** Chosen parts of a settings file. */
interface Chosen {
  usual: boolean;
  telling: boolean;
  projects: string[];
}

const NOTHING: Chosen = { usual: false, telling: false, projects: [] };

function Part(props: {
  label: string;
  changes: string[];
  untaken?: string[];
  possible: boolean;
  on: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <Box py="1.5" borderBottom="1px solid" borderColor="hairline">
      {props.possible && props.changes.length > 0 ? (
        <Tick label={props.label} on={props.on} onChange={props.onChange} />
      ) : (
        <Text fontSize="14px">
          {props.label}
          {props.possible && phrase("notifications.theSameAsHere")}
        </Text>
      )}
      <Box pl="7" fontSize="12px">
        {props.changes.map((line) => (
          <Text key={line}>{line}</Text>
        ))}
        {props.untaken?.map((line) => (
          <Text key={line} color="caution">
            ▲ {line}
          </Text>
        ))}
      </Box>
    </Box>
  );
}

function Choose(props: {
  difference: CarriedDifference;
  onTake: (chosen: Chosen) => void;
  pending: boolean;
}) {
  const { difference } = props;
  const [chosen, setChosen] = useState<Chosen>(NOTHING);
  const none = !chosen.usual && !chosen.telling && chosen.projects.length === 0;
  return (
    <Box mt="2">
      <Part
        label={phrase("notifications.whatNewProjectsGet")}
        changes={difference.usual}
        possible
        on={chosen.usual}
        onChange={(usual) => setChosen({ ...chosen, usual })}
      />
      <Part
        label={phrase("notifications.notifications")}
        changes={difference.telling}
        possible
        on={chosen.telling}
        onChange={(telling) => setChosen({ ...chosen, telling })}
      />
      {difference.projects.map((p) => (
        <Part
          key={p.name}
          label={p.name}
          changes={p.changes}
          untaken={p.untaken}
          possible={p.here !== undefined}
          on={chosen.projects.includes(p.name)}
          onChange={(on) =>
            setChosen({
              ...chosen,
              projects: on
                ? [...chosen.projects, p.name]
                : chosen.projects.filter((n) => n !== p.name),
            })
          }
        />
      ))}
      <Flex mt="3">
        <Main disabled={none} loading={props.pending} onClick={() => props.onTake(chosen)}>
          {none
            ? phrase("notifications.chooseWhatToImport")
            : phrase("notifications.importWhatIsChosen")}
        </Main>
      </Flex>
    </Box>
  );
}

/** What was set goes to another machine as one file; the difference is shown before it is taken. */
export function ExportImport() {
  const [document, setDocument] = useState<unknown>();
  const [unreadable, setUnreadable] = useState<string>();
  const compare = useCompareSettings();
  const take = useImportSettings();
  const read = async (file: File | undefined) => {
    if (!file) return;
    setUnreadable(undefined);
    take.reset();
    try {
      const parsed: unknown = JSON.parse(await file.text());
      setDocument(parsed);
      compare.mutate(parsed);
    } catch {
      compare.reset();
      setUnreadable(phrase("notifications.isNoJsonNothingWasChanged", { name: file.name }));
    }
  };
  const difference = take.data ?? compare.data;
  return (
    <Box mt="6">
      <Text fontSize="14px" fontWeight="650">
        {phrase("notifications.exportOrImportSettings")}
      </Text>
      <Text fontSize="12px" color="muted" mb="2">
        {phrase("notifications.plansProgramProfilesAndNotificationsWithout", {
          link: (text) => <a href="/api/settings/schema">{text}</a>,
        })}
      </Text>
      <Flex gap="3" align="center">
        <Side asChild>
          <a href="/api/settings" download="kavrin-settings.json">
            {phrase("notifications.saveAsAFile")}
          </a>
        </Side>
        <FileButton
          name={phrase("notifications.settingsToImport")}
          json
          onFile={(file) => void read(file)}
        >
          {phrase("notifications.readAFile")}
        </FileButton>
      </Flex>
      <Failure error={compare.error ?? take.error ?? (unreadable ? new Error(unreadable) : null)} />
      {take.isSuccess && (
        <Text role="status" fontSize="13px" color="fir" mt="2">
          {phrase("notifications.importedWhatStillDiffersIsListed")}
        </Text>
      )}
      {difference && (
        <Choose
          key={take.submittedAt}
          difference={difference}
          pending={take.isPending}
          onTake={(chosen) => take.mutate({ document, ...chosen })}
        />
      )}
    </Box>
  );
}
