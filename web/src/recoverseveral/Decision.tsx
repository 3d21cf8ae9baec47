import { NativeSelect, Table, Text } from "@chakra-ui/react";
import type { AsOfRow } from "../api/schema";
import type { Wish } from "../api/restoring";
import { Tick } from "../shared/fields";
import { Health } from "../shared/parts";
import { moment } from "../shared/dates";
import { size, VERDICT } from "../shared/words";
import { Head } from "../shared/Head";
import { phrase } from "../words/phrase";

interface Own {
  state?: string;
  mode?: Wish["mode"];
  off?: boolean;
}

const WHERE: [Wish["mode"], string][] = [
  ["REPLACE", phrase("recoverseveral.inItsPlace")],
  ["NEXT", phrase("recoverseveral.asNextNumber")],
  ["BESIDE", phrase("recoverseveral.besideIt")],
];

function Select(props: {
  label: string;
  value: string;
  disabled: boolean;
  options: [string, string][];
  onChange: (value: string) => void;
}) {
  return (
    <NativeSelect.Root size="xs" disabled={props.disabled}>
      <NativeSelect.Field
        aria-label={props.label}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      >
        {props.options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator />
    </NativeSelect.Root>
  );
}

function nowWords(row: AsOfRow, state: string | undefined, zone: string, now: number): string {
  if (!row.everSaved) return phrase("recoverseveral.neverSaved");
  if (row.present === "nothing") return phrase("recoverseveral.noFileThere");
  if (row.present === state) return phrase("recoverseveral.isThatVersionAlready");
  return row.modified
    ? phrase("recoverseveral.written", { moment: moment(row.modified, zone, now) })
    : phrase("recoverseveral.there");
}

/** One line for each document: what is there, what it goes back to, why, and where to. */
export function Decision(props: {
  rows: AsOfRow[];
  chosen: Record<string, Own>;
  zone: string;
  now: number;
  done: boolean;
  onChoose: (document: string, change: Own) => void;
}) {
  const { zone, now, done, onChoose } = props;
  return (
    <Table.Root
      size="sm"
      fontSize="13px"
      tableLayout="fixed"
      css={{ "& td, & th": { borderColor: "hairline", py: "5px" } }}
    >
      <Head
        ground
        columns={[
          [phrase("common.document"), "26%"],
          [phrase("recoverseveral.now"), "15%"],
          [phrase("recoverseveral.goesBackTo"), "23%"],
          [phrase("recoverseveral.health"), "12%"],
          [phrase("recoverseveral.why"), "24%"],
          [phrase("recoverseveral.whereTo"), "150px"],
        ]}
      />
      <Table.Body>
        {props.rows.map((row) => {
          const own = props.chosen[row.document] ?? {};
          const state = own.state ?? row.state;
          const choice = row.choices.find((c) => c.state === state);
          const stays = state === undefined || own.off === true || row.present === state;
          return (
            <Table.Row key={row.document} bg="transparent">
              <Table.Cell wordBreak="break-word">
                {state === undefined ? (
                  <Text ps="6">{row.name}</Text>
                ) : (
                  <Tick
                    label={row.name}
                    on={own.off !== true}
                    onChange={(on) => onChoose(row.document, { off: !on })}
                  />
                )}
                {row.linked && (
                  <Text ps="6" color="muted" fontSize="12px">
                    {phrase("recoverseveral.linkedFile")}
                  </Text>
                )}
              </Table.Cell>
              <Table.Cell color={row.present === "nothing" ? "caution" : "muted"}>
                {nowWords(row, state, zone, now)}
              </Table.Cell>
              <Table.Cell>
                {row.choices.length > 0 ? (
                  <Select
                    label={phrase("recoverseveral.versionOf", { name: row.name })}
                    value={state ?? ""}
                    disabled={done || own.off === true}
                    options={[
                      ...(state === undefined
                        ? [["", phrase("recoverseveral.staysAsItIs")] as [string, string]]
                        : []),
                      ...row.choices.map((c): [string, string] => [
                        c.state,
                        `${moment(c.work, zone, now)}, ${
                          c.step === undefined
                            ? size(c.size)
                            : phrase("recoverseveral.step", { step: c.step })
                        }${c.verdict === "INTACT" ? "" : `, ${VERDICT[c.verdict] ?? c.verdict}`}`,
                      ]),
                    ]}
                    onChange={(value) => onChoose(row.document, { state: value })}
                  />
                ) : (
                  <Text color="muted">{phrase("recoverseveral.staysAsItIs")}</Text>
                )}
              </Table.Cell>
              <Table.Cell>{choice && <Health verdict={choice.verdict} />}</Table.Cell>
              <Table.Cell color="muted">
                {own.state !== undefined && own.state !== row.state
                  ? phrase("recoverseveral.yourChoice")
                  : row.why}
              </Table.Cell>
              <Table.Cell>
                {row.run && state !== undefined ? (
                  <Text color="muted">{phrase("recoverseveral.aFolderOfItsOwn")}</Text>
                ) : stays ? (
                  <Text color="muted">{phrase("recoverseveral.nothingToDo")}</Text>
                ) : (
                  <Select
                    label={phrase("recoverseveral.whereGoes", { name: row.name })}
                    value={own.mode ?? "REPLACE"}
                    disabled={done}
                    options={WHERE}
                    onChange={(value) => onChoose(row.document, { mode: value as Wish["mode"] })}
                  />
                )}
              </Table.Cell>
            </Table.Row>
          );
        })}
      </Table.Body>
    </Table.Root>
  );
}
