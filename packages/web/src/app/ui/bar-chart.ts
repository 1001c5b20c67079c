import { ChangeDetectionStrategy, Component, ElementRef, input, output, viewChild } from '@angular/core';
import { BarChart as Bars } from 'echarts/charts';
import * as echarts from 'echarts/core';
import { formatMinutes } from '@core/ground';
import { chartIn, type Drawing, tooltip } from './chart';

echarts.use([Bars]);

/** A row of bars: one figure in minutes for each name. Colours are names of the interface's own. */
export interface Bar {
  readonly name: string;
  readonly colour: `--${string}`;
  readonly minutes: readonly number[];
  /** Bars of one stack lie on each other. */
  readonly stack?: string;
}
const MINUTES_AN_HOUR = 60;
const NAME_WIDTH = 92;

/** Bars side by side for each of some names; a press on one says which. What it shows stands in a table beside it too. */
@Component({
  selector: 'dl-bar-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div #at class="at"></div>`,
  styles: `
    .at {
      height: 100%;
      min-height: 180px;
    }
  `,
})
export class BarChart {
  readonly names = input.required<readonly string[]>();
  readonly bars = input.required<readonly Bar[]>();
  readonly pressed = output<number>();
  private readonly at = viewChild.required<ElementRef<HTMLElement>>('at');

  constructor() {
    chartIn(
      this.at,
      (drawing) => this.option(drawing),
      (index) => this.pressed.emit(index),
    );
  }

  private option(drawing: Drawing): object {
    const { colour, text, width } = drawing;
    return {
      grid: { left: 8, right: 16, top: 32, bottom: 4, containLabel: true },
      legend: { top: 0, left: 0, itemWidth: 12, itemHeight: 12, textStyle: text },
      tooltip: {
        trigger: 'axis',
        axisPointer: { type: 'shadow' },
        valueFormatter: (hours: unknown) => formatMinutes(Math.round(Number(hours) * MINUTES_AN_HOUR)),
        ...tooltip(drawing),
      },
      xAxis: {
        type: 'category',
        data: [...this.names()],
        axisLabel: { ...text, interval: 0, width: NAME_WIDTH, lineHeight: 16, ...this.laid(width) },
        axisTick: { show: false },
        axisLine: { lineStyle: { color: colour('--field') } },
      },
      yAxis: {
        type: 'value',
        axisLabel: { ...text, formatter: '{value} h' },
        splitLine: { lineStyle: { color: colour('--rule') } },
      },
      series: this.bars().map((bar) => ({
        type: 'bar',
        name: bar.name,
        data: bar.minutes.map((minutes) => minutes / MINUTES_AN_HOUR),
        itemStyle: { color: colour(bar.colour) },
        barMaxWidth: 28,
        ...(bar.stack ? { stack: bar.stack } : {}),
      })),
    };
  }

  /** Names that have no room beside each other stand slanted, each in one line. */
  private laid(width: number): { readonly rotate: number; readonly overflow: 'break' | 'truncate' } {
    const isTight = this.names().length * NAME_WIDTH > width;
    return isTight ? { rotate: 50, overflow: 'truncate' } : { rotate: 0, overflow: 'break' };
  }
}
