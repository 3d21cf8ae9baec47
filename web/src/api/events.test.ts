import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { concerns } from "./events";

const id = fc.uuid();

describe("what an event concerns", () => {
  it("is of one document: what names it, its project, or all documents", () => {
    fc.assert(
      fc.property(id, id, id, (document, project, other) => {
        fc.pre(new Set([document, project, other]).size === 3);
        const event = `document ${document} ${project} 7`;
        expect(concerns(event, ["trail", document])).toBe(true);
        expect(concerns(event, ["restore-preview", document, "s", "REPLACE", undefined])).toBe(
          true,
        );
        expect(concerns(event, ["figures", project, {}, other])).toBe(true);
        expect(concerns(event, ["overview"])).toBe(true);
        expect(concerns(event, ["trail", other])).toBe(false);
        expect(concerns(event, ["restore-preview", other, "s", "REPLACE", undefined])).toBe(false);
        expect(concerns(event, ["parts-preview", other, []])).toBe(false);
        expect(concerns(event, ["session"])).toBe(false);
      }),
    );
  });

  it("never is what an unchanging content shows", () => {
    expect(concerns("document a b 1", ["plane", "a"])).toBe(false);
    expect(concerns("document a b 1", ["comparison", "a", "x", "y", null])).toBe(false);
  });

  it("is of a project: whatever may show its plan, but nothing that lasts", () => {
    expect(concerns("project p", ["trail", "d"])).toBe(true);
    expect(concerns("project p", ["session"])).toBe(false);
    expect(concerns("standing d p", ["trail", "d"])).toBe(true);
    expect(concerns("standing d p", ["trail", "other"])).toBe(false);
  });

  it("of a topic is what shows that topic", () => {
    expect(concerns("search", ["search"])).toBe(true);
    expect(concerns("search", ["overview"])).toBe(false);
    expect(concerns("standing", ["overview"])).toBe(true);
    expect(concerns("jobs", ["jobs"])).toBe(true);
  });

  it("after a gap is everything but who one is", () => {
    fc.assert(
      fc.property(fc.string(), (asked) => {
        fc.pre(asked !== "session");
        expect(concerns("everything", [asked])).toBe(true);
      }),
    );
    expect(concerns("everything", ["session"])).toBe(false);
  });
});
