<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed } from 'vue'
import type { StepReadView } from '../api/client'
import { useActing } from '../composables/useActing'
import ChalkTally from './ChalkTally.vue'

/** Turns tapped as they come, chalked up in fives and flats. */
const props = defineProps<{ read: StepReadView; label: string }>()
const { problem, busy, act } = useActing()
/** Axle, side and arm of the end, and whether it comes off or goes on, from its key. */
const place = computed(() => {
  const [axle, side, arm, turns] = props.read.key.split('.')
  return {
    axle: axle as 'front' | 'rear',
    side: side as 'left' | 'right',
    arm: arm!,
    direction: turns!.endsWith('off') ? ('off' as const) : ('on' as const),
  }
})

function count(flats: number): void {
  void act({ kind: 'counted', ...place.value, flats })
}
</script>

<template>
  <div class="stack">
    <ChalkTally :label="label" :count="read.counted!" />
    <div class="row" role="group" :aria-label="`Count: ${label}`">
      <el-button size="large" type="primary" :disabled="busy" @click="count(6)">+ 1 turn</el-button>
      <el-button size="large" :disabled="busy" @click="count(1)">+ 1 flat</el-button>
      <el-button size="large" :disabled="busy || !read.counted?.total_flats" @click="count(-1)">
        − 1 flat
      </el-button>
    </div>
    <RefusalNote :said="problem" />
  </div>
</template>
