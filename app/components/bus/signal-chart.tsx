import { LineChart } from "echarts/charts";
import { DataZoomComponent, GridComponent, TitleComponent, TooltipComponent } from "echarts/components";
import { init, use } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { useEffect, useRef, useState } from "react";
import type { DrawnSeries } from "~/app/workers/log/series";

use([LineChart, GridComponent, TooltipComponent, DataZoomComponent, TitleComponent, CanvasRenderer]);

const ROW_PX = 130;
const TOP_PX = 34;
const LEFT_PX = 88;
const RIGHT_PX = 24;

/** Asks for what is to be drawn of a stretch of time, on so many pixel columns. */
export type AskSeries = (fromS: number, toS: number, columns: number) => Promise<DrawnSeries[]>;

/** One row a signal over a common time axis; value tables name the levels. Drag or wheel zooms in time, down to single frames. */
export function SignalChart({ names, durationS, ask }: { names: string[]; durationS: number; ask: AskSeries }) {
  const box = useRef<HTMLDivElement>(null);
  const [range, setRange] = useState<{ fromS: number; toS: number } | null>(null);
  const { fromS, toS } = range ?? { fromS: 0, toS: durationS };
  const spanS = toS - fromS;
  const key = names.join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: `ask` talks to the same worker; the names say what it asks for
  useEffect(() => {
    const element = box.current;
    if (!element || names.length === 0) return;
    const chart = init(element);
    const look = colours(element);
    let asked = 0;
    let set = false;
    let shown = { fromS: 0, toS: Math.max(durationS, 1e-3) };
    const columns = () => Math.max(100, element.clientWidth - LEFT_PX - RIGHT_PX);
    const draw = async () => {
      const mine = ++asked;
      const drawn = await ask(shown.fromS, shown.toS, columns());
      if (mine !== asked || chart.isDisposed()) return;
      if (!set) chart.setOption(options(drawn, durationS, () => shown.toS - shown.fromS, look));
      else chart.setOption({ series: drawn.map((s, i) => ({ id: String(i), data: s.points })) });
      set = true;
      setRange(shown);
    };
    chart.on("datazoom", () => {
      const [zoom] = (chart.getOption() as { dataZoom: { startValue: number; endValue: number }[] }).dataZoom;
      if (!zoom) return;
      shown = { fromS: zoom.startValue, toS: zoom.endValue };
      void draw();
    });
    void draw();
    const observer = new ResizeObserver(() => {
      chart.resize();
      void draw();
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
      setRange(null);
      chart.dispose();
    };
  }, [key, durationS]);
  return (
    <div
      ref={box}
      role="img"
      aria-busy={range === null}
      aria-label={`Signals over time: ${names.join(", ")}; ${secondsLabel(fromS, spanS)} to ${secondsLabel(toS, spanS)}`}
      style={{ height: names.length * ROW_PX + 80 }}
      className="w-full"
    />
  );
}

/** Seconds with as many digits as the distance of two labels needs. */
function secondsLabel(atS: number, spanS: number): string {
  const digits = Math.min(6, Math.max(0, 1 - Math.floor(Math.log10(Math.max(spanS, 1e-9) / 5))));
  return `${atS.toFixed(spanS >= 50 ? 0 : digits)} s`;
}

function colours(element: Element) {
  const style = getComputedStyle(element);
  return {
    ink: style.getPropertyValue("--ink"),
    quiet: style.getPropertyValue("--quiet"),
    rule: style.getPropertyValue("--rule"),
  };
}

function options(
  series: DrawnSeries[],
  durationS: number,
  spanS: () => number,
  c: { ink: string; quiet: string; rule: string },
) {
  const last = series.length - 1;
  const endS = Math.max(durationS, 1e-3);
  const font = { fontFamily: "IBM Plex Mono", color: c.quiet, fontSize: 12 };
  const all = series.map((_, i) => i);
  return {
    animation: false,
    title: series.map((s, i) => ({
      text: s.unit ? `${s.name}, ${s.unit}` : s.name,
      left: 0,
      top: i * ROW_PX + 2,
      textStyle: { ...font, color: c.ink, fontFamily: "IBM Plex Sans", fontSize: 14, fontWeight: 500 as const },
    })),
    grid: series.map((_, i) => ({
      left: LEFT_PX,
      right: RIGHT_PX,
      top: i * ROW_PX + TOP_PX,
      height: ROW_PX - TOP_PX - 22,
    })),
    xAxis: series.map((_, i) => ({
      type: "value" as const,
      gridIndex: i,
      min: 0,
      max: endS,
      axisLabel: {
        ...font,
        show: i === last,
        hideOverlap: true,
        showMinLabel: true,
        formatter: (v: number) => secondsLabel(v, spanS()),
      },
      splitLine: { lineStyle: { color: c.rule } },
      axisLine: { lineStyle: { color: c.quiet } },
    })),
    yAxis: series.map((s, i) => {
      const names = new Map(s.values);
      return {
        type: "value" as const,
        gridIndex: i,
        scale: true,
        splitNumber: 3,
        minInterval: names.size > 0 ? 1 : undefined,
        axisLabel: { ...font, formatter: (v: number) => names.get(v) ?? (names.size > 0 ? "" : String(v)) },
        splitLine: { lineStyle: { color: c.rule } },
      };
    }),
    tooltip: { trigger: "axis" as const, formatter: tooltip(series) },
    axisPointer: { link: [{ xAxisIndex: "all" as const }] },
    dataZoom: [
      { type: "inside" as const, xAxisIndex: all, zoomOnMouseWheel: "ctrl" as const, minValueSpan: 0.01 },
      {
        type: "slider" as const,
        xAxisIndex: all,
        bottom: 4,
        height: 26,
        borderColor: c.rule,
        fillerColor: "transparent",
        handleStyle: { color: c.quiet, borderColor: c.quiet },
        moveHandleStyle: { color: c.rule },
        dataBackground: { lineStyle: { color: c.quiet }, areaStyle: { color: c.rule } },
        selectedDataBackground: { lineStyle: { color: c.ink }, areaStyle: { color: c.rule } },
        textStyle: font,
        minValueSpan: 0.01,
        labelFormatter: (v: number) => secondsLabel(v, endS),
      },
    ],
    series: series.map((s, i) => ({
      id: String(i),
      name: s.name,
      type: "line" as const,
      xAxisIndex: i,
      yAxisIndex: i,
      data: s.points,
      showSymbol: false,
      step: s.values.length > 0 ? ("end" as const) : false,
      lineStyle: { color: c.ink, width: 1.8 },
      itemStyle: { color: c.ink },
    })),
  };
}

function tooltip(series: DrawnSeries[]) {
  return (all: unknown) => {
    const rows = all as { seriesIndex: number; value: [number, number] }[];
    const at = rows[0]?.value[0] ?? 0;
    const lines = rows.map(({ seriesIndex, value: [, v] }) => {
      const s = series[seriesIndex];
      const named = s && new Map(s.values).get(v);
      return `${plain(s?.name ?? "")}: ${plain(named ?? `${Number(v.toPrecision(8))} ${s?.unit ?? ""}`)}`;
    });
    return [`${at.toFixed(3)} s`, ...lines].join("<br>");
  };
}

/** Names come from files. */
function plain(text: string): string {
  return text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
}
