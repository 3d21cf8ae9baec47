import "@fontsource-variable/figtree";
import "@fontsource/jetbrains-mono/latin-400.css";
import "@fontsource/jetbrains-mono/latin-700.css";
import { speak } from "./words/phrase";

// Views hold phrases as constants: the language is known before any of them is read.
await speak();
await import("./app/begin");
