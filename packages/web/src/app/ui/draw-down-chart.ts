import { ChangeDetectionStrategy, Component, ElementRef, input, viewChild } from '@angular/core';
import { LineChart } from 'echarts/charts';
import * as echarts from 'echarts/core';
import { chartIn, type Drawing, tooltip } from './chart';
import { plainDate } from './time-format';

echarts.use([LineChart]);

/** What is left at the end of a day. */
export interface LeftOn {
  readonly on: string;
  readonly left: number;
}

/** How something granted goes down day by day, to today, and on to the day it runs out at this pace. What it shows stands beside it in words. */
@Component({
  selector: 'dl-draw-down-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div #at class="at"></div>`,
  styles: `
    .at {
      height: 150px;
    }
  `,
})
export class DrawDownChart {
  readonly points = input.required<readonly LeftOn[]>();
  /** The first day after what is shown. */
  readonly end = input.required<string>();
  readonly today = input.required<string>();
  readonly runsOut = input<string | null>(null);
  readonly say = input.required<(left: number) => string>();
  /** How many units make one that people count in: 60 minutes an hour. */
  readonly unit = input(1);
  private readonly at = viewChild.required<ElementRef<HTMLElement>>('at');

  constructor() {
    chartIn(this.at, (drawing) => this.option(drawing));
  }

  private option(drawing: Drawing): object {
    const { colour, text } = drawing;
    const points = this.points();
    const last = points.at(-1);
    const until = this.today() < this.end() ? this.today() : this.end();
    const drawn = points.map(({ on, left }) => [on, left]);
    if (last && last.on < until) drawn.push([until, last.left]);
    const runsOut = this.runsOut();
    const ahead =
      last && runsOut && runsOut > until
        ? [
            [until, last.left],
            [runsOut, 0],
          ]
        : [];
    const most = Math.max(1, ...points.map((p) => p.left));
    const interval = niceStep(most / this.unit() / LINES) * this.unit();
    const line = { type: 'line', symbol: 'none', lineStyle: { color: colour('--ink'), width: 2 }, itemStyle: { color: colour('--ink') } };
    return {
      grid: { left: 8, right: 16, top: 10, bottom: 4, containLabel: true },
      tooltip: {
        trigger: 'axis',
        ...tooltip(drawing),
        valueFormatter: (left: unknown) => this.say()(Math.max(0, Math.round(Number(left)))),
      },
      xAxis: {
        type: 'time',
        min: points[0]?.on,
        max: this.end(),
        axisLabel: {
          ...text,
          hideOverlap: true,
          formatter: (at: number) => plainDate(new Date(at).toISOString().slice(0, 10)).replace(/ \d{4}$/, ''),
        },
        axisLine: { lineStyle: { color: colour('--field') } },
      },
      yAxis: {
        type: 'value',
        min: 0,
        max: Math.ceil(most / interval) * interval,
        interval,
        axisLabel: { ...text, formatter: (left: number) => this.say()(left) },
        splitLine: { lineStyle: { color: colour('--rule') } },
      },
      series: [
        // On its first day there is one point and no line yet.
        {
          ...line,
          name: 'left',
          step: 'end',
          data: drawn,
          ...(drawn.length === 1 ? { symbol: 'circle', symbolSize: 8 } : {}),
          areaStyle: { color: colour('--wash'), opacity: 1 },
        },
        {
          ...line,
          name: 'at this pace',
          data: ahead,
          lineStyle: { color: colour('--late'), type: 'dashed', width: 2 },
          itemStyle: { color: colour('--late') },
        },
      ],
    };
  }
}

/** So many lines go across it at the most. */
const LINES = 3;

/** The least of 1, 2, 5 and their tenfolds that is no less. */
function niceStep(least: number): number {
  const ten = 10 ** Math.floor(Math.log10(Math.max(1, least)));
  return ten * ([1, 2, 5].find((n) => n * ten >= least) ?? 10);
}
