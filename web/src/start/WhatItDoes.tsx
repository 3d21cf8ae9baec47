import { Flex, NativeSelect, Text } from "@chakra-ui/react";
import { ProfileFields } from "../programs/ProfileFields";
import { Failure, Side } from "../shared/parts";
import { Clues, Happenings, Steps } from "./Clues";
import type { useProfile } from "./useProfile";
import { phrase } from "../words/phrase";

/** A program seen at work, and the profile that comes of it; both can be corrected. */
export function WhatItDoes(props: {
  profile: ReturnType<typeof useProfile>;
  at: { folder: string; rule: string[] } | undefined;
}) {
  const { view, error, proposed, said, seen, say, document, setDocument, choices, take } =
    props.profile;
  if (said) {
    return (
      <>
        <ProfileFields form={said} onChange={say} at={props.at} />
        <Side size="xs" mt="3" onClick={() => say(undefined)}>
          {phrase("start.backToWhatWasSeen")}
        </Side>
      </>
    );
  }
  return (
    <>
      {!view && (
        <Text fontSize="13px" color="muted">
          {phrase("start.kavrinWatchesWhatTheProgramDoes")}
        </Text>
      )}
      <Failure error={error} />
      {view && (
        <>
          <Steps view={view} />
          {(proposed?.documents.length ?? 0) > 1 && (
            <Flex gap="2" align="center" mt="2" fontSize="13px" wrap="wrap">
              {phrase("start.youWorkOn")}
              <NativeSelect.Root size="xs" w="260px" maxW="100%">
                <NativeSelect.Field
                  aria-label={phrase("start.theFileYouWorkOn")}
                  borderColor="hairline"
                  value={document || proposed?.document}
                  onChange={(e) => setDocument(e.target.value)}
                >
                  {proposed?.documents.map((d) => (
                    <option key={d} value={d}>
                      {d}
                    </option>
                  ))}
                </NativeSelect.Field>
                <NativeSelect.Indicator />
              </NativeSelect.Root>
            </Flex>
          )}
          <Clues clues={proposed?.clues ?? []} choices={choices} onChoose={take} />
          <Happenings view={view} />
        </>
      )}
      <Side size="xs" mt="3" onClick={() => say(seen)}>
        {phrase("start.correctItByHand")}
      </Side>
    </>
  );
}
