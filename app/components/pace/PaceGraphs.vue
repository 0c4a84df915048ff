<script setup lang="ts">
import { greatest } from '#core/geometry/extremes'
import { useThrottleFn } from '@vueuse/core'
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent, MarkPointComponent } from 'echarts/components'
import type { ECharts, EChartsCoreOption } from 'echarts/core'
import { init, use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { COMFORT } from '#core/camera/comfort'
import { graphsOf } from '#core/checks/graphs'
import { UNIT_SIGNS } from '#core/trips/metres'
import { useEditor } from '~/stores/editor'
import { usePlayback } from '~/stores/playback'
import { useStrip } from './use-strip'

use([LineChart, GridComponent, MarkLineComponent, MarkPointComponent, SVGRenderer])

/** How the film moves, as curves under the strip: speed, turning and height of the traveller, and how the camera moves the picture. */
const editor = useEditor()
const playback = usePlayback()
const strip = useStrip()

/** One curve is so high, in CSS pixels. */
const HEIGHT = 74
/** Curves are computed anew at most so often while something is dragged, in milliseconds. */
const PAUSE = 150

const graphs = shallowRef(graphsOf(editor.compiled!, editor.itinerary!))
const renew = useThrottleFn(() => editor.itinerary && (graphs.value = graphsOf(editor.compiled!, editor.itinerary)), PAUSE, true)
watch(() => [editor.compiled, editor.itinerary], renew)

interface Curve {
  name: string
  values: (number | null)[]
  /** Above it is not pleasant to watch. */
  limit?: number
  /** How a value is told. */
  tell: (value: number) => string
}
const figure = (value: number) => (value >= 100 ? value.toFixed(0) : value >= 10 ? value.toFixed(1) : value.toFixed(2))
const curves = computed<Curve[]>(() => {
  const { speed, isMeasured, turning, zoom, pan, cameraTurn, height } = graphs.value
  const unit = isMeasured ? UNIT_SIGNS[editor.journey!.measures.unit] : 'px of the map'
  const widest = greatest(zoom)
  return [
    { name: 'Speed', values: speed, tell: (v) => `${figure(v)} ${unit} a second` },
    { name: 'Turning', values: turning, tell: (v) => `${v.toFixed(0)}° a second` },
    { name: 'Zoom', values: zoom, tell: (v) => `${((100 * v) / widest).toFixed(0)} % of the closest` },
    ...(pan.some((v) => v > 0)
      ? [{ name: 'Picture', values: pan, tell: (v: number) => `${figure(v)} widths a second`, limit: COMFORT.pan }]
      : []),
    ...(cameraTurn.some((v) => v > 0)
      ? [{ name: 'Camera turn', values: cameraTurn, tell: (v: number) => `${v.toFixed(0)}° a second`, limit: COMFORT.turn }]
      : []),
    ...(height.some((metres) => metres !== null) ? [{ name: 'Height', values: height, tell: (v: number) => `${v.toFixed(0)} m` }] : []),
  ]
})

/** The value of a curve at the play position. */
function valueAt(values: readonly (number | null)[]): number | null {
  const { times } = graphs.value
  const next = times.findIndex((time) => time > playback.time + 1e-6)
  return values[next < 0 ? times.length - 1 : Math.max(0, next - 1)] ?? null
}
const told = ({ values, tell }: Curve) => {
  const value = valueAt(values)
  return value === null ? 'not known here' : tell(value)
}

const host = useTemplateRef<HTMLElement>('host')
let chart: ECharts | undefined
const colours = ref({ ink: '#14233a', sea: '#17646b', rule: '#cccccc', vermilion: '#d8412f' })
function readColours() {
  const style = getComputedStyle(host.value!)
  const colour = (name: string) => style.getPropertyValue(`--${name}`).trim()
  colours.value = { ink: colour('ink'), sea: colour('sea'), rule: colour('rule'), vermilion: colour('vermilion') }
}

const option = computed<EChartsCoreOption>(() => {
  const { times, jumps } = graphs.value
  const { sea, rule, vermilion } = colours.value
  const seconds = editor.journey!.seconds
  return {
    animation: false,
    grid: curves.value.map((_, i) => ({
      left: strip.x(0),
      width: strip.x(seconds) - strip.x(0),
      top: i * HEIGHT + 18,
      height: HEIGHT - 24,
    })),
    xAxis: curves.value.map((_, i) => ({ type: 'value', gridIndex: i, min: 0, max: seconds, axisLabel: { show: false }, axisTick: { show: false }, splitLine: { show: false }, axisLine: { lineStyle: { color: rule } } })), // prettier-ignore
    yAxis: curves.value.map(({ name }, i) => ({ type: 'value', gridIndex: i, min: name === 'Height' ? 'dataMin' : 0, axisLabel: { show: false }, axisTick: { show: false }, splitLine: { show: false } })), // prettier-ignore
    series: curves.value.map(({ name, values, limit }, i) => ({
      type: 'line',
      name,
      xAxisIndex: i,
      yAxisIndex: i,
      showSymbol: false,
      silent: true,
      lineStyle: { color: sea, width: 1.5 },
      areaStyle: { color: sea, opacity: 0.12 },
      data: times.map((time, k) => [time, values[k]]),
      ...(name === 'Speed'
        ? {
            markLine: {
              symbol: 'none',
              silent: true,
              label: { show: false },
              lineStyle: { color: vermilion, type: 'solid' },
              data: jumps.map((time) => ({ xAxis: time })),
            },
          }
        : limit === undefined
          ? {}
          : { markLine: { symbol: 'none', silent: true, label: { show: false }, lineStyle: { color: vermilion, type: 'dashed' }, data: [{ yAxis: limit }] } }), // prettier-ignore
    })),
  }
})

onMounted(() => {
  readColours()
  chart = init(host.value, null, { renderer: 'svg', width: strip.width.value, height: curves.value.length * HEIGHT })
  chart.setOption(option.value)
})
watch(option, (next) => {
  chart?.resize({ width: strip.width.value, height: curves.value.length * HEIGHT })
  chart?.setOption(next, { notMerge: true })
})
onBeforeUnmount(() => chart?.dispose())
</script>

<template>
  <section class="graphs" aria-label="Graphs" data-testid="graphs">
    <div ref="host" aria-hidden="true" :style="{ height: `${curves.length * HEIGHT}px` }" />
    <p
      v-for="(curve, i) in curves"
      :key="curve.name"
      class="word"
      :style="{ top: `${i * HEIGHT + 2}px` }"
      :data-testid="`graph-${curve.name}`"
    >
      <b>{{ curve.name }}</b> <span class="figures">{{ told(curve) }}</span>
      <span v-if="curve.name === 'Speed' && graphs.jumps.length > 0" class="jumps" data-testid="jumps">
        {{ graphs.jumps.length === 1 ? 'jumps once' : `jumps ${graphs.jumps.length} times` }}, at
        {{
          graphs.jumps
            .slice(0, 4)
            .map((time) => `${time.toFixed(1)} s`)
            .join(', ')
        }}{{ graphs.jumps.length > 4 ? ' …' : '' }}
      </span>
    </p>
  </section>
</template>

<style scoped>
.graphs {
  position: relative;
  border-top: 1px solid var(--rule);
}
.word {
  position: sticky;
  left: 4px;
  float: left;
  width: max-content;
  margin-top: 0;
  font-size: 12px;
  line-height: 16px;
  pointer-events: none;
}
.graphs > .word {
  position: absolute;
}
.jumps {
  margin-left: 8px;
  color: var(--vermilion);
}
</style>
