import { Flex, NativeSelect, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type Role, ROLE_WORDS, ROLES, useMay } from "../api/people";
import { useOverview } from "../api/queries";
import type { Grant } from "../api/schema";
import { Quiet } from "../shared/parts";
import { given } from "../shared/words";
import { phrase } from "../words/phrase";

const EVERYTHING = "";

function Choice<T extends string>(props: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  return (
    <NativeSelect.Root size="xs" w="220px" maxW="100%">
      <NativeSelect.Field
        aria-label={props.label}
        borderColor="hairline"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value as T)}
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

/** What somebody may, and with which projects: one line each. */
export function Rights(props: { grants: Grant[]; onChange: (grants: Grant[]) => void }) {
  const may = useMay();
  const projects = useOverview().data?.projects ?? [];
  const places = [
    ...(may("ADMINISTER") ? [[EVERYTHING, phrase("people.everyProject")] as const] : []),
    ...projects.filter((p) => may("ADMINISTER", p.id)).map((p) => [p.id, p.name] as const),
  ];
  const [role, setRole] = useState<Role>("RESTORE");
  const [chosen, setWhere] = useState<string>();
  const where = chosen ?? places[0]?.[0] ?? EVERYTHING;
  const named = (id: string | undefined) =>
    id === undefined
      ? phrase("people.everyProject")
      : (projects.find((p) => p.id === id)?.name ?? phrase("people.aProject"));
  const others = props.grants.filter((g) => (g.project ?? EVERYTHING) !== where);
  return (
    <>
      {props.grants.length === 0 && (
        <Text fontSize="13px" color="muted">
          {phrase("people.nothingYet")}
        </Text>
      )}
      {props.grants.map((g) => (
        <Flex key={g.project ?? EVERYTHING} align="center" gap="2" py="0.5" fontSize="13px">
          <Text minW="0" overflowWrap="anywhere">
            {phrase("people.mayIn", { roleWords: ROLE_WORDS[g.role], named: named(g.project) })}
          </Text>
          {may("ADMINISTER", g.project) && (
            <Quiet
              aria-label={phrase("people.takeAwayIn", {
                roleWords: ROLE_WORDS[g.role],
                named: named(g.project),
              })}
              onClick={() => props.onChange(props.grants.filter((other) => other !== g))}
            >
              {phrase("people.takeAway")}
            </Quiet>
          )}
        </Flex>
      ))}
      <Flex gap="2" mt="1.5" align="center" wrap="wrap" fontSize="13px">
        {phrase("people.inAllow", {
          choice: (
            <Choice
              label={phrase("people.may")}
              value={role}
              options={ROLES.map((r) => [r, ROLE_WORDS[r]] as const)}
              onChange={setRole}
            />
          ),
          choice2: (
            <Choice
              label={phrase("people.in")}
              value={where}
              options={places}
              onChange={setWhere}
            />
          ),
          b: (text) => (
            <Quiet
              onClick={() =>
                props.onChange([...others, given({ project: where || undefined, role })])
              }
            >
              {text}
            </Quiet>
          ),
        })}
      </Flex>
    </>
  );
}
