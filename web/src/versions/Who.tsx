import { Text } from "@chakra-ui/react";
import { useWho } from "../api/finding";
import { moment } from "../shared/dates";

/** Who has to do with the file, on a drive that several people use. */
export function Who(props: { document: string; zone: string; now: number }) {
  const who = useWho(props.document);
  if (!who.data) return null;
  const { owner, lastWriter, openIn, signs } = who.data;
  const words = [
    owner ? `owned by ${owner}` : "",
    lastWriter ? `last written by ${lastWriter}` : "",
    openIn.length > 0 ? `open in ${openIn.join(", ")}` : "",
    ...signs.map(
      (s) =>
        `${s.name} stands since ${moment(s.since, props.zone, props.now)}${s.owner && s.owner !== owner ? `, put there by ${s.owner}` : ""}`,
    ),
  ].filter(Boolean);
  return (
    <Text fontSize="12px" color="muted">
      {words.join(" · ")}
    </Text>
  );
}
