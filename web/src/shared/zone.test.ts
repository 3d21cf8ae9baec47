import { describe, expect, it } from "vitest";
import { fromWall, toWall } from "./zone";

// Moments of change: EU directive 2000/84/EC, last Sundays of March and October at 01:00 UTC.
describe("wall clocks", () => {
  it.each([
    ["2031-03-04T14:00", "Europe/Vienna", "2031-03-04T13:00:00.000Z"],
    ["2031-07-04T14:00", "Europe/Vienna", "2031-07-04T12:00:00.000Z"],
    ["2031-10-26T02:30", "Europe/Vienna", "2031-10-26T00:30:00.000Z"],
    ["2031-10-26T03:30", "Europe/Vienna", "2031-10-26T02:30:00.000Z"],
    ["2031-03-04T14:00", "Asia/Kathmandu", "2031-03-04T08:15:00.000Z"],
  ])("%s in %s", (wall, zone, moment) => {
    expect(fromWall(wall, zone)?.toISOString()).toBe(moment);
    expect(toWall(moment, zone)).toBe(wall);
  });

  it("tell when there is no time", () => {
    expect(fromWall("", "UTC")).toBeUndefined();
  });
});
