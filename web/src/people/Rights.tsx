import { Flex, NativeSelect, Text } from "@chakra-ui/react";
import { useState } from "react";
import { type Role, ROLE_WORDS, ROLES, useMay } from "../api/people";
import { useOverview } from "../api/queries";
import type { Grant } from "../api/schema";
import { Quiet } from "../shared/parts";
import { given } from "../shared/words";

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
    ...(may("ADMINISTER") ? [[EVERYTHING, "every project"] as const] : []),
    ...projects.filter((p) => may("ADMINISTER", p.id)).map((p) => [p.id, p.name] as const),
  ];
  const [role, setRole] = useState<Role>("RESTORE");
  const [chosen, setWhere] = useState<string>();
  const where = chosen ?? places[0]?.[0] ?? EVERYTHING;
  const named = (id: string | undefined) =>
    id === undefined ? "every project" : (projects.find((p) => p.id === id)?.name ?? "a project");
  const others = props.grants.filter((g) => (g.project ?? EVERYTHING) !== where);
  return (
    <>
      {props.grants.length === 0 && (
        <Text fontSize="13px" color="muted">
          Nothing yet.
        </Text>
      )}
      {props.grants.map((g) => (
        <Flex key={g.project ?? EVERYTHING} align="center" gap="2" py="0.5" fontSize="13px">
          <Text minW="0" overflowWrap="anywhere">
            May {ROLE_WORDS[g.role]} in {named(g.project)}
          </Text>
          {may("ADMINISTER", g.project) && (
            <Quiet
              aria-label={`Take away: ${ROLE_WORDS[g.role]} in ${named(g.project)}`}
              onClick={() => props.onChange(props.grants.filter((other) => other !== g))}
            >
              Take away
            </Quiet>
          )}
        </Flex>
      ))}
      <Flex gap="2" mt="1.5" align="center" wrap="wrap" fontSize="13px">
        <Choice
          label="May"
          value={role}
          options={ROLES.map((r) => [r, ROLE_WORDS[r]] as const)}
          onChange={setRole}
        />
        in
        <Choice label="In" value={where} options={places} onChange={setWhere} />
        <Quiet
          onClick={() => props.onChange([...others, given({ project: where || undefined, role })])}
        >
          Allow
        </Quiet>
      </Flex>
    </>
  );
}
