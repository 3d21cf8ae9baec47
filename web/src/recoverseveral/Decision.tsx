import { NativeSelect, Table, Text } from "@chakra-ui/react";
import type { AsOfRow } from "../api/schema";
import type { Wish } from "../api/restoring";
import { Tick } from "../shared/fields";
import { Health } from "../shared/parts";
import { moment } from "../shared/dates";
import { size, VERDICT } from "../shared/words";
import { Head } from "../shared/Head";

interface Own {
  state?: string;
  mode?: Wish["mode"];
  off?: boolean;
}

const WHERE: [Wish["mode"], string][] = [
  ["REPLACE", "in its place"],
  ["NEXT", "as next number"],
  ["BESIDE", "beside it"],
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
  if (!row.everSaved) return "never saved";
  if (row.present === "nothing") return "no file there";
  if (row.present === state) return "is that version already";
  return row.modified ? `written ${moment(row.modified, zone, now)}` : "there";
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
          ["Document", "26%"],
          ["Now", "15%"],
          ["Goes back to", "23%"],
          ["Health", "12%"],
          ["Why", "24%"],
          ["Where to", "150px"],
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
                    linked file
                  </Text>
                )}
              </Table.Cell>
              <Table.Cell color={row.present === "nothing" ? "caution" : "muted"}>
                {nowWords(row, state, zone, now)}
              </Table.Cell>
              <Table.Cell>
                {row.choices.length > 0 ? (
                  <Select
                    label={`Version of ${row.name}`}
                    value={state ?? ""}
                    disabled={done || own.off === true}
                    options={[
                      ...(state === undefined ? [["", "stays as it is"] as [string, string]] : []),
                      ...row.choices.map((c): [string, string] => [
                        c.state,
                        `${moment(c.work, zone, now)}, ${
                          c.step === undefined ? size(c.size) : `step ${c.step}`
                        }${c.verdict === "INTACT" ? "" : `, ${VERDICT[c.verdict] ?? c.verdict}`}`,
                      ]),
                    ]}
                    onChange={(value) => onChoose(row.document, { state: value })}
                  />
                ) : (
                  <Text color="muted">stays as it is</Text>
                )}
              </Table.Cell>
              <Table.Cell>{choice && <Health verdict={choice.verdict} />}</Table.Cell>
              <Table.Cell color="muted">
                {own.state !== undefined && own.state !== row.state ? "your choice" : row.why}
              </Table.Cell>
              <Table.Cell>
                {row.run && state !== undefined ? (
                  <Text color="muted">a folder of its own</Text>
                ) : stays ? (
                  <Text color="muted">nothing to do</Text>
                ) : (
                  <Select
                    label={`Where ${row.name} goes`}
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
