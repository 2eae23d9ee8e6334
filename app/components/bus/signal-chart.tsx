import { LineChart } from "echarts/charts";
import { DataZoomComponent, GridComponent, TitleComponent, TooltipComponent } from "echarts/components";
import { init, use } from "echarts/core";
import { CanvasRenderer } from "echarts/renderers";
import { useEffect, useRef } from "react";
import type { DrawnSeries } from "~/app/workers/log.worker";

use([LineChart, GridComponent, TooltipComponent, DataZoomComponent, TitleComponent, CanvasRenderer]);

const ROW_PX = 130;
const TOP_PX = 34;

/** One row a signal over a common time axis; value tables name the levels. Drag or wheel zooms in time. */
export default function SignalChart({ series }: { series: DrawnSeries[] }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = box.current;
    if (!element || series.length === 0) return;
    const chart = init(element);
    chart.setOption(options(series, colours(element)));
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(element);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [series]);
  return (
    <div
      ref={box}
      role="img"
      aria-label={`Signals over time: ${series.map((s) => s.name).join(", ")}`}
      style={{ height: series.length * ROW_PX + 80 }}
      className="w-full"
    />
  );
}

function colours(element: Element) {
  const style = getComputedStyle(element);
  return {
    ink: style.getPropertyValue("--ink"),
    quiet: style.getPropertyValue("--quiet"),
    rule: style.getPropertyValue("--rule"),
  };
}

function options(series: DrawnSeries[], c: { ink: string; quiet: string; rule: string }) {
  const last = series.length - 1;
  const endS = Math.max(...series.flatMap((s) => s.points.slice(-1).map(([t]) => t)), 1);
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
    grid: series.map((_, i) => ({ left: 88, right: 16, top: i * ROW_PX + TOP_PX, height: ROW_PX - TOP_PX - 22 })),
    xAxis: series.map((_, i) => ({
      type: "value" as const,
      gridIndex: i,
      min: 0,
      max: endS,
      axisLabel: { ...font, show: i === last, formatter: "{value} s" },
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
    tooltip: { trigger: "axis" as const, valueFormatter: (v: unknown) => String(v) },
    axisPointer: { link: [{ xAxisIndex: "all" as const }] },
    dataZoom: [
      { type: "inside" as const, xAxisIndex: all, zoomOnMouseWheel: "ctrl" as const },
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
      },
    ],
    series: series.map((s, i) => ({
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
