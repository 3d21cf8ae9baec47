import { Text } from "@chakra-ui/react";
import { useWho } from "../api/finding";
import { moment } from "../shared/dates";
import { phrase } from "../words/phrase";

/** Who has to do with the file, on a drive that several people use. */
export function Who(props: { document: string; zone: string; now: number }) {
  const who = useWho(props.document);
  if (!who.data) return null;
  const { owner, lastWriter, openIn, signs } = who.data;
  const words = [
    owner ? phrase("versions.ownedBy", { owner }) : "",
    lastWriter ? phrase("versions.lastWrittenBy", { lastWriter }) : "",
    openIn.length > 0 ? phrase("versions.openIn", { openIn: openIn.join(", ") }) : "",
    ...signs.map((s) =>
      phrase("versions.standsSince", {
        name: s.name,
        moment: moment(s.since, props.zone, props.now),
        by: s.owner && s.owner !== owner ? phrase("versions.putThereBy", { owner: s.owner }) : "",
      }),
    ),
  ].filter(Boolean);
  return (
    <Text fontSize="12px" color="muted">
      {words.join(" · ")}
    </Text>
  );
}
