<script setup lang="ts">
import {
  mdiArrowExpandHorizontal,
  mdiCameraPlusOutline,
  mdiCursorDefaultOutline,
  mdiGesture,
  mdiMapMarkerPlusOutline,
  mdiPause,
  mdiPlay,
  mdiRepeat,
  mdiRoadVariant,
  mdiSkipPrevious,
  mdiStepBackward,
  mdiStepForward,
  mdiVectorPolyline,
  mdiVolumeHigh,
  mdiVolumeOff,
} from '@mdi/js'
import { isHeard } from '#core/film/settings'
import { rateLabel } from '#core/pace/rate'
import { timecode } from '#core/pace/timecode'
import { useCamera } from '~/stores/camera'
import { useEditor } from '~/stores/editor'
import { SPEEDS, usePlayback } from '~/stores/playback'
import { useSound } from '~/stores/sound'
import { useStage } from '~/stores/stage'
import FrameShapes from '~/components/camera/FrameShapes.vue'
import PlanMenu from '~/components/camera/PlanMenu.vue'
import GuidesMenu from '~/components/camera/GuidesMenu.vue'
import ToolButton from '../stage/ToolButton.vue'

const playback = usePlayback()
const stage = useStage()
const camera = useCamera()
const editor = useEditor()
const sound = useSound()

function play() {
  stage.showFilm()
  playback.toggle()
}
</script>

<template>
  <div class="bar" role="toolbar" aria-label="Tools and playback">
    <div class="group">
      <ToolButton
        :icon="mdiCursorDefaultOutline"
        label="Select and move"
        keys="Esc"
        :pressed="stage.tool === 'select'"
        @click="stage.setTool('select')"
      />
      <ToolButton
        :icon="mdiMapMarkerPlusOutline"
        label="Place stops"
        keys="S"
        :pressed="stage.tool === 'stop'"
        @click="stage.setTool('stop')"
        >Place stops</ToolButton
      >
      <ToolButton
        :icon="mdiVectorPolyline"
        label="Draw by nodes"
        keys="D"
        :pressed="stage.tool === 'draw'"
        data-testid="tool-draw"
        @click="stage.setTool('draw')"
        >Nodes</ToolButton
      >
      <ToolButton
        :icon="mdiGesture"
        label="Draw freehand"
        keys="F"
        :pressed="stage.tool === 'freehand'"
        data-testid="tool-freehand"
        @click="stage.setTool('freehand')"
        >Freehand</ToolButton
      >
      <ToolButton
        :icon="mdiRoadVariant"
        label="Follow a road on the map"
        keys="P"
        :pressed="stage.tool === 'follow'"
        data-testid="tool-follow"
        @click="stage.setTool('follow')"
        >Road</ToolButton
      >
    </div>
    <div class="group looks" role="radiogroup" aria-label="View">
      <v-tooltip
        v-for="mode in ['table', 'lens'] as const"
        :key="mode"
        :text="mode === 'table' ? 'The whole sheet, to work on (T)' : 'What the film shows (T)'"
        location="top"
      >
        <template #activator="{ props: tip }">
          <button
            v-bind="tip"
            type="button"
            role="radio"
            :aria-checked="stage.mode === mode"
            :class="{ chosen: stage.mode === mode }"
            @click="stage.setMode(mode)"
          >
            {{ mode === 'table' ? 'Table' : 'Lens' }}
          </button>
        </template>
      </v-tooltip>
    </div>
    <ToolButton
      :icon="mdiCameraPlusOutline"
      label="Add a shot here"
      keys="V"
      data-testid="keep-view"
      :disabled="playback.time === 0"
      @click="camera.keep()"
    />
    <GuidesMenu />
    <PlanMenu />
    <FrameShapes />
    <div class="group playing">
      <ToolButton :icon="mdiSkipPrevious" label="Go to start" keys="Home" @click="playback.rewind()" />
      <ToolButton :icon="mdiStepBackward" label="Previous frame" keys="," @click="playback.step(-1)" />
      <v-tooltip :text="playback.playing ? 'Pause (Space)' : 'Play (Space)'" location="top">
        <template #activator="{ props: tip }">
          <v-btn
            v-bind="tip"
            class="play"
            :icon="playback.playing ? mdiPause : mdiPlay"
            color="accent"
            size="38"
            variant="flat"
            :aria-label="playback.playing ? 'Pause' : 'Play'"
            data-testid="play"
            @click="play"
          />
        </template>
      </v-tooltip>
      <ToolButton :icon="mdiStepForward" label="Next frame" keys="." @click="playback.step(1)" />
      <ToolButton :icon="mdiRepeat" label="Loop" keys="L" :pressed="playback.looping" @click="playback.looping = !playback.looping" />
      <ToolButton
        v-if="playback.range"
        :icon="mdiArrowExpandHorizontal"
        label="Loop the whole film"
        data-testid="clear-range"
        @click="playback.clearRange()"
      />
      <ToolButton
        v-if="editor.journey && isHeard(editor.journey)"
        :icon="sound.muted ? mdiVolumeOff : mdiVolumeHigh"
        :label="sound.muted ? 'Sound on' : 'Sound off'"
        data-testid="mute"
        @click="sound.muted = !sound.muted"
      />
      <v-menu>
        <template #activator="{ props: menu }">
          <button v-bind="menu" type="button" class="speed figures" :aria-label="`${playback.speed}×, playback speed`" data-testid="speed">
            {{ playback.speed }}×
          </button>
        </template>
        <v-list density="compact">
          <v-list-item
            v-for="speed in SPEEDS"
            :key="speed"
            :title="`${speed} ×`"
            :active="speed === playback.speed"
            @click="playback.speed = speed"
          />
        </v-list>
      </v-menu>
    </div>
    <div class="clock figures">
      <output class="code" data-testid="timecode" aria-label="Timecode">{{ playback.code }}</output>
      <span v-if="playback.playing && playback.late" class="late" role="status" data-testid="late"
        >shows {{ playback.late.shown }} of {{ playback.late.due }} fps</span
      >
      <span v-else class="of"
        >of {{ timecode(playback.frames, playback.rate) }}<span class="rate"> · {{ rateLabel(playback.rate) }} fps</span></span
      >
    </div>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 12px;
  background: var(--surface);
  border-block: 1px solid var(--rule);
}
.group {
  display: flex;
  flex: none;
  align-items: center;
  gap: 2px;
}
.looks {
  border: 1px solid var(--rule);
  border-radius: 4px;
  overflow: hidden;
}
.looks button {
  padding: 4px 14px;
  font-weight: 600;
  font-size: 14px;
  cursor: pointer;
}
.looks .chosen {
  background: var(--sea);
  color: rgb(var(--v-theme-on-primary));
}
.playing {
  margin-left: auto;
}
.play {
  margin: 0 4px;
}
.clock {
  min-width: 250px;
  white-space: nowrap;
}
.code {
  font-size: 20px;
  font-weight: 600;
  color: var(--brass);
}
@media (width < 1400px) {
  .rate {
    display: none;
  }
  .clock {
    min-width: 0;
  }
}
/* In a narrow bar the texts beside the icons are hidden first, then the bar wraps. */
@media (width < 1180px) {
  .bar :deep(.tool span) {
    display: none;
  }
}
@media (1000px <= width < 1100px) {
  .of {
    display: none;
  }
}
@media (width < 1000px) {
  .bar {
    flex-wrap: wrap;
    padding-block: 4px;
    row-gap: 4px;
  }
  .playing {
    margin-left: 0;
  }
}
.speed {
  min-width: 40px;
  min-height: 32px;
  font-size: 14px;
  font-weight: 600;
  cursor: pointer;
}
.late {
  margin-left: 8px;
  font-size: 13px;
  color: var(--vermilion);
}
.of {
  margin-left: 8px;
  font-size: 13px;
  color: var(--quiet);
}
</style>
