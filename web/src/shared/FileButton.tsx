import { FileUpload } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Side } from "./parts";

/** Chooses one file, which may lie anywhere; the same one again if asked again. */
export function FileButton(props: {
  name: string;
  json?: boolean;
  busy?: boolean;
  onFile: (file: File) => void;
  children: ReactNode;
}) {
  return (
    <FileUpload.Root
      position="relative"
      width="auto"
      acceptedFiles={[]}
      {...(props.json && { accept: { "application/json": [".json"] } })}
      onFileAccept={({ files: [file] }) => file && props.onFile(file)}
    >
      <FileUpload.HiddenInput aria-label={props.name} />
      <FileUpload.Trigger asChild>
        <Side size="xs" loading={props.busy}>
          {props.children}
        </Side>
      </FileUpload.Trigger>
    </FileUpload.Root>
  );
}
