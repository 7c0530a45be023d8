<script setup lang="ts">
import type { SpringsView, TrySprings } from '../api/client'
import { saySigned } from '../composables/useWords'

defineProps<{ view: SpringsView; threaded: string[] }>()
const emit = defineEmits<{ reset: [] }>()
const wish = defineModel<Required<TrySprings>>({ required: true })
type Wheel = keyof Required<TrySprings>['turns']
type Axle = keyof Required<TrySprings>['rates_pct']
const AXLES: Axle[] = ['front', 'rear']
/** A slider of one handle tells one number. */
const number = (at: number | number[]) => [at].flat()[0]!

function ring(key: string, at: number | number[]): void {
  wish.value = { ...wish.value, turns: { ...wish.value.turns, [key as Wheel]: number(at) } }
}

function seat(key: string, at: number | number[]): void {
  wish.value = {
    ...wish.value,
    seats_mm: { ...wish.value.seats_mm, [key as Wheel]: number(at) },
  }
}

function rate(axle: Axle, at: number | number[]): void {
  wish.value = { ...wish.value, rates_pct: { ...wish.value.rates_pct, [axle]: number(at) } }
}

function hole(axle: Axle, chosen: '1' | '2' | '3'): void {
  wish.value = { ...wish.value, holes: { ...wish.value.holes, [axle]: chosen } }
}
</script>

<template>
  <section class="card stack" aria-label="What if">
    <div class="row justify-between">
      <h3>What if</h3>
      <el-button @click="emit('reset')">As planned</el-button>
    </div>
    <div class="grid grid-cols-[repeat(2,minmax(0,1fr))] gap-y-4px gap-x-28px lt-phone:one-col">
      <label v-for="one in view.wheels" :key="one.key">
        <span
          v-if="threaded.includes(one.key)"
          class="grid col-auto gap-y-0 gap-x-10px items-center"
        >
          {{ one.label }} ring
          <b class="figure">{{ saySigned(wish.turns[one.key as Wheel] ?? 0, 2) }} turns</b>
          <el-slider
            :min="-12"
            :max="12"
            :step="0.25"
            :show-tooltip="false"
            :aria-label="`${one.label}: ring turns to try`"
            :model-value="wish.turns[one.key as Wheel] ?? 0"
            @input="ring(one.key, $event)"
          />
        </span>
        <span v-else class="grid col-auto gap-y-0 gap-x-10px items-center">
          {{ one.label }} seat
          <b class="figure">{{ saySigned(wish.seats_mm[one.key as Wheel] ?? 0, 0) }} mm</b>
          <el-slider
            :min="-40"
            :max="40"
            :step="1"
            :show-tooltip="false"
            :aria-label="`${one.label}: seat height to try`"
            :model-value="wish.seats_mm[one.key as Wheel] ?? 0"
            @input="seat(one.key, $event)"
          />
        </span>
      </label>
      <label v-for="axle in AXLES" :key="axle">
        <span class="grid col-auto gap-y-0 gap-x-10px items-center">
          {{ axle === 'front' ? 'Front' : 'Rear' }} spring rate
          <b class="figure">{{ saySigned(wish.rates_pct[axle] ?? 0, 0) }} %</b>
          <el-slider
            :min="-40"
            :max="80"
            :step="1"
            :show-tooltip="false"
            :aria-label="`${axle} spring rate to try`"
            :model-value="wish.rates_pct[axle] ?? 0"
            @input="rate(axle, $event)"
          />
        </span>
      </label>
      <label v-for="bar in view.bars.filter((one) => one.holes.length > 1)" :key="bar.axle">
        <span class="grid col-auto gap-y-0 gap-x-10px items-center">
          {{ bar.axle === 'front' ? 'Front' : 'Rear' }} bar
          <el-select
            :persistent="false"
            :aria-label="`${bar.axle} bar hole to try`"
            :model-value="
              wish.holes[bar.axle as Axle] ?? bar.holes.find((one) => one.used)?.name ?? '1'
            "
            @change="hole(bar.axle as Axle, $event)"
          >
            <el-option
              v-for="one in bar.holes"
              :key="one.name"
              :value="one.name"
              :label="`Hole ${one.name}`"
            />
          </el-select>
        </span>
      </label>
    </div>
  </section>
</template>

<style scoped>
.el-slider,
.el-select {
  grid-column: 1 / -1;
}
</style>
