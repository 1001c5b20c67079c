import { afterNextRender, DestroyRef, effect, type ElementRef, inject, type Signal } from '@angular/core';
import { AriaComponent, GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

echarts.use([GridComponent, LegendComponent, MarkLineComponent, TooltipComponent, AriaComponent, SVGRenderer]);

/** What a chart is drawn with: the interface's own colours, its text, and how wide it is. */
export interface Drawing {
  readonly colour: (name: `--${string}`) => string;
  readonly text: { readonly color: string; readonly fontFamily: string; readonly fontSize: number };
  readonly width: number;
}

/**
 * Draws a chart in an element, anew whenever what it shows or its size changes; called where injection is possible.
 * @param option what is shown, as ECharts takes it; signals that it reads are followed
 * @param pressed which of what is shown was pressed
 */
export function chartIn(
  at: Signal<ElementRef<HTMLElement>>,
  option: (drawing: Drawing) => object,
  pressed?: (index: number) => void,
): void {
  const destroyed = inject(DestroyRef);
  let chart: echarts.ECharts | undefined;
  const draw = () => {
    const style = getComputedStyle(document.documentElement);
    const colour = (name: string) => style.getPropertyValue(name).trim();
    const text = { color: colour('--ink'), fontFamily: colour('--text'), fontSize: 13 };
    const frame = { aria: { enabled: true }, animation: false, textStyle: text };
    const shown = option({ colour, text, width: chart?.getWidth() ?? Infinity });
    chart?.setOption({ ...frame, ...shown }, true);
  };
  afterNextRender(() => {
    const element = at().nativeElement;
    chart = echarts.init(element, undefined, { renderer: 'svg' });
    chart.on('click', (event) => pressed?.(event.dataIndex));
    draw();
    const watch = new ResizeObserver(() => (chart?.resize(), draw()));
    watch.observe(element);
    destroyed.onDestroy(() => (watch.disconnect(), chart?.dispose()));
  });
  effect(draw);
}

/** What stands over a chart where the pointer is. */
export function tooltip({ colour, text }: Drawing): object {
  return { backgroundColor: colour('--panel'), borderColor: colour('--rule'), textStyle: text };
}
