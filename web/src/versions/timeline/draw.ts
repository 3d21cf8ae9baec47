import type { Bar, TimelineLayout } from "./layout";

export const LANE = 42;
export const TOP = 34;
const STAVE = 5;
const TALLEST = 30;

export interface Palette {
  ink: string;
  hairline: string;
  muted: string;
  fir: string;
  loss: string;
  lossWash: string;
  raised: string;
  ground: string;
  caution: string;
}

const baseline = (lane: number) => TOP + (lane + 1) * LANE - 6;

/** Draws a laid-out wake; the context is scaled to CSS pixels. */
export function draw(
  ctx: CanvasRenderingContext2D,
  wake: TimelineLayout,
  palette: Palette,
  chosen: string,
): void {
  const bottom = baseline(wake.lanes.length - 1);
  ctx.clearRect(0, 0, wake.scale.width + 2, bottom + 40);
  grounds(ctx, wake, palette, bottom);
  ctx.strokeStyle = palette.hairline;
  wake.lanes.forEach((_, lane) => line(ctx, 0, baseline(lane), wake.scale.width, baseline(lane)));
  ctx.strokeStyle = palette.muted;
  ctx.globalAlpha = 0.45;
  for (const t of wake.threads) line(ctx, t.x, baseline(t.from), t.x, baseline(t.to) - 2);
  ctx.globalAlpha = 1;
  for (const bar of wake.bars) drawBar(ctx, bar, palette, bar.state === chosen);
  for (const t of wake.torn) torn(ctx, t.x, bottom, palette.loss);
  ctx.fillStyle = palette.ink;
  ctx.fillRect(wake.scale.width - 1, 4, 2, bottom);
}

function grounds(ctx: CanvasRenderingContext2D, wake: TimelineLayout, p: Palette, bottom: number) {
  for (const piece of wake.scale.pieces) {
    if (piece.kind === "fold") {
      ctx.fillStyle = p.raised;
      ctx.fillRect(piece.x0, TOP - 6, piece.x1 - piece.x0, bottom - TOP + 6);
    }
    if (piece.kind === "lastHour" && piece.x0 > 0) {
      ctx.strokeStyle = p.muted;
      ctx.setLineDash([2, 3]);
      line(ctx, piece.x0, 2, piece.x0, bottom);
      ctx.setLineDash([]);
    }
  }
  if (wake.exposure) {
    ctx.fillStyle = p.lossWash;
    ctx.fillRect(wake.exposure.x0, TOP - 6, wake.exposure.x1 - wake.exposure.x0, bottom - TOP + 6);
  }
  for (const gap of wake.unwatched) {
    hatch(ctx, gap.x0, TOP - 6, gap.x1 - gap.x0, bottom - TOP + 6, p.hairline);
  }
}

function drawBar(ctx: CanvasRenderingContext2D, s: Bar, p: Palette, chosen: boolean) {
  const h = s.height * TALLEST;
  const x = Math.round(s.x - STAVE / 2);
  const y = baseline(s.lane) - h;
  const tone =
    s.shape === "broken" ? p.loss : s.shape === "hatched" ? p.caution : s.ours ? p.fir : p.ink;
  ctx.fillStyle = tone;
  ctx.strokeStyle = tone;
  if (s.shape === "whole") ctx.fillRect(x, y, STAVE, h);
  if (s.shape === "openTop") {
    ctx.strokeRect(x + 0.5, y + 0.5, STAVE - 1, h);
    ctx.fillRect(x, y + 6, STAVE, h - 6);
    ctx.clearRect(x + 1, y, STAVE - 2, 3);
  }
  if (s.shape === "outlined") ctx.strokeRect(x + 0.5, y + 0.5, STAVE - 1, h - 1);
  if (s.shape === "hatched") {
    hatch(ctx, x, y, STAVE, h, tone);
    ctx.strokeRect(x + 0.5, y + 0.5, STAVE - 1, h - 1);
  }
  if (s.shape === "broken") {
    const gap = Math.min(4, h / 4);
    ctx.fillRect(x - 1, y, STAVE, h / 2 - gap / 2);
    ctx.fillRect(x + 1, y + h / 2 + gap / 2, STAVE, h / 2 - gap / 2);
  }
  if (s.copies > 1) ctx.fillRect(x - 2, y + h - 2, STAVE + 4, 2);
  if (chosen) ctx.strokeRect(x - 3.5, y - 3.5, STAVE + 7, h + 4);
}

function torn(ctx: CanvasRenderingContext2D, x: number, bottom: number, colour: string) {
  ctx.strokeStyle = colour;
  ctx.lineWidth = 1.5;
  ctx.beginPath();
  for (let y = 4, side = -1; y <= bottom; y += 7, side = -side) ctx.lineTo(x + side * 3, y);
  ctx.stroke();
  ctx.lineWidth = 1;
}

function hatch(
  ctx: CanvasRenderingContext2D,
  x: number,
  y: number,
  w: number,
  h: number,
  colour: string,
) {
  ctx.save();
  ctx.beginPath();
  ctx.rect(x, y, w, h);
  ctx.clip();
  ctx.strokeStyle = colour;
  for (let d = -h; d < w; d += 5) line(ctx, x + d, y + h, x + d + h, y);
  ctx.restore();
}

function line(ctx: CanvasRenderingContext2D, x0: number, y0: number, x1: number, y1: number) {
  ctx.beginPath();
  ctx.moveTo(x0, y0);
  ctx.lineTo(x1, y1);
  ctx.stroke();
}

/** The bar under a point, nearest first. */
export function barAt(wake: TimelineLayout, x: number, y: number): Bar | undefined {
  const lane = Math.floor((y - TOP) / LANE);
  return wake.bars
    .filter((s) => s.lane === lane && s.state !== "" && Math.abs(s.x - x) < 8)
    .sort((p, q) => Math.abs(p.x - x) - Math.abs(q.x - x))[0];
}

export const wakeHeight = (lanes: number) => TOP + lanes * LANE + 20;
