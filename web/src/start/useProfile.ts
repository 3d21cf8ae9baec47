import { useState } from "react";
import { NO_PROFILE, type ProfileForm, toForm } from "../programs/profile";
import { accepted, type Choices, useWatching } from "./watching";

/** A program watched in a folder, what a person says of what was seen, and the profile of both. */
export function useProfile(folder: string) {
  const [document, setDocument] = useState("");
  const [choices, setChoices] = useState<Choices>(new Map());
  const [said, say] = useState<ProfileForm>();
  const watching = useWatching(folder, document);
  const proposed = watching.view?.proposed;
  const seen = proposed ? toForm(accepted(proposed, choices)) : NO_PROFILE;
  return {
    ...watching,
    proposed,
    document,
    setDocument,
    choices,
    take: (key: string, taken: boolean) => setChoices(new Map(choices).set(key, taken)),
    /** As a person wrote it; undefined while what was seen counts. */
    said,
    say,
    seen,
    form: said ?? seen,
    /** Another folder is watched: what was said of the one before says nothing of it. */
    forget: () => {
      setDocument("");
      setChoices(new Map());
    },
  };
}
