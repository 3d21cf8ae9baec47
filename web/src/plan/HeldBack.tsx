import type { Pauses as HandsOffRecord, Light } from "../api/schema";
import { duration, seconds } from "../shared/words";
import { Number, Setting, Tick, Words } from "../shared/fields";
import { phrase } from "../words/phrase";
import { Row } from "./Row";

export function HandsOff({
  plan,
  set,
}: {
  plan: HandsOffRecord;
  set: (changed: HandsOffRecord) => void;
}) {
  const change = (changes: Partial<HandsOffRecord>) => set({ ...plan, ...changes });
  return (
    <Setting
      name={phrase("plan.pauseWhile")}
      under={phrase("plan.thenKavrinNeitherReadsNorWrites")}
    >
      <Row>
        {phrase("plan.whileAProcessCalledRuns", {
          words: (
            <Words
              label={phrase("plan.processThatKeepsKavrinAway")}
              value={plan.process}
              placeholder={phrase("plan.noneSet")}
              onChange={(process) => change({ process })}
            />
          ),
        })}
      </Row>
      <Row>
        {phrase("plan.whileAFileCalledStands", {
          words: (
            <Words
              label={phrase("plan.fileThatKeepsKavrinAway")}
              value={plan.file}
              placeholder={phrase("plan.noneSet")}
              onChange={(file) => change({ file })}
            />
          ),
        })}
      </Row>
      <Row>
        <Tick
          label={phrase("plan.whileTheDocumentGrows")}
          on={plan.growing}
          onChange={(growing) => change({ growing })}
        />
      </Row>
      <Row>
        {phrase("plan.forMinAtMost0No", {
          number: (
            <Number
              label={phrase("plan.minutesOfAPauseAtMost")}
              value={seconds(plan.limit) / 60}
              min={0}
              max={10080}
              onChange={(m) => change({ limit: duration(Math.round(m * 60)) })}
            />
          ),
        })}
      </Row>
    </Setting>
  );
}

/** What timed copies leave out; every so many-th is full all the same. */
export function LightCopies({ light, set }: { light: Light; set: (changed: Light) => void }) {
  const change = (changes: Partial<Light>) => set({ ...light, ...changes });
  const on = light.pictures || light.entries.length > 0;
  return (
    <Setting name={phrase("plan.leaveOut")} under={phrase("plan.ofTimedBackupsWhatIsLeft")}>
      <Row>
        <Tick
          label={phrase("plan.embeddedPicturesOfModels")}
          on={light.pictures}
          onChange={(pictures) => change({ pictures })}
        />
      </Row>
      <Row>
        {phrase("plan.ofArchivesEntriesCalled", {
          words: (
            <Words
              label={phrase("plan.archiveEntriesToLeaveOut")}
              value={light.entries.join(" ")}
              placeholder={phrase("plan.noneSet")}
              onChange={(text) => change({ entries: text.split(/ +/).filter(Boolean) })}
            />
          ),
        })}
      </Row>
      {on && (
        <Row>
          {phrase("plan.everyThBackupIsFullAll", {
            number: (
              <Number
                label={phrase("plan.everySoManyThCopyFull")}
                value={light.fullEvery}
                min={2}
                max={10000}
                onChange={(n) => change({ fullEvery: Math.round(n) })}
              />
            ),
          })}
        </Row>
      )}
    </Setting>
  );
}
