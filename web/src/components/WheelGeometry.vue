<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import type { TriedView, WheelPlanView } from '../api/client'
import { VERDICTS, sayNumber } from '../composables/useWords'
import CornerDrawing from './CornerDrawing.vue'
import TravelCurve from './TravelCurve.vue'

const CornerSpace = defineAsyncComponent(() => import('./CornerSpace.vue'))
const inSpace = ref(false)
const props = defineProps<{ wheel: WheelPlanView; tried?: TriedView }>()
const turns = defineModel<Record<string, number>>('turns', { required: true })
const target = (name: string) => props.wheel.targets.find((one) => one.name === name)
const curve = (name: 'toe_deg' | 'camber_deg') => {
  const at = props.tried
  const wanted = target(name.replace('_deg', ''))
  return {
    today: { travel: props.wheel.curve?.travel_mm ?? [], value: props.wheel.curve?.[name] ?? [] },
    tried: at?.curve ? { travel: at.curve.travel_mm, value: at.curve[name] } : undefined,
    at: at?.angles ? ([at.travel_mm, at.angles[name]] as [number, number]) : undefined,
    wanted: wanted && ([wanted.least_deg, wanted.most_deg] as [number, number]),
  }
}
const chance = computed(() => props.wheel.chance_pct)

function turn(name: string, at: number | number[]): void {
  turns.value = { ...turns.value, [name]: [at].flat()[0]! }
}
</script>

<template>
  <section class="card grid one-col gap-12px content-start" :aria-label="wheel.label">
    <h3>{{ wheel.label }}</h3>
    <template v-if="!wheel.known">
      <el-alert v-if="wheel.problem" type="warning" :closable="false" role="note">{{
        wheel.problem
      }}</el-alert>
      <el-alert v-if="wheel.lacks.length" type="warning" :closable="false" role="note">
        Points still to be measured: {{ wheel.lacks.join(', ') }}.
      </el-alert>
    </template>
    <template v-else>
      <template v-if="wheel.segments.length">
        <CornerSpace
          v-if="inSpace"
          :wheel="wheel.key"
          :label="wheel.label"
          :turns="turns"
          @plain="inSpace = false"
        />
        <template v-else>
          <CornerDrawing
            :segments="wheel.segments"
            :label="wheel.label"
            :left="wheel.key.endsWith('left')"
          />
          <el-button class="justify-self-start" @click="inSpace = true">Turn it in space</el-button>
        </template>
      </template>
      <el-alert v-if="wheel.depth_said" type="warning" :closable="false" role="note">
        {{ wheel.depth_said }}
      </el-alert>
      <el-alert v-if="wheel.differs" type="warning" :closable="false" role="note"
        >▲ {{ wheel.differs }}</el-alert
      >
      <p v-if="!wheel.measured.length" class="soft">
        Toe and camber were not read yet; the curves start from zero.
      </p>
      <div class="grid two-cols gap-12px max-[520px]:one-col">
        <TravelCurve title="Camber" unit="°" v-bind="curve('camber_deg')" />
        <TravelCurve title="Toe" unit="°" v-bind="curve('toe_deg')" />
      </div>
      <el-alert v-if="tried?.problem" type="error" :closable="false" role="alert">{{
        tried.problem
      }}</el-alert>
      <el-alert v-if="wheel.problem" type="warning" :closable="false" role="note">{{
        wheel.problem
      }}</el-alert>
      <div v-for="one in wheel.adjusters" :key="one.name" class="grid gap-2px pt-8px ruled">
        <div class="flex flex-wrap gap-y-2px gap-x-14px items-baseline">
          <b>{{ one.name }}</b>
          <span class="figure text-24px c-go">{{ one.said }}</span>
          <span v-if="one.plus_minus_turns !== null" class="soft">
            exactly {{ sayNumber(one.exact_turns ?? 0, 2) }} ±
            {{ sayNumber(one.plus_minus_turns, 2) }} {{ one.unit === 'turn' ? 'turns' : one.unit }}
          </span>
          <span v-if="one.needed" class="wait">▲ {{ one.needed }}</span>
          <span v-if="one.check" class="wait">{{ one.check }}</span>
        </div>
        <label class="grid grid-cols-[130px_minmax(0,1fr)] gap-10px items-center min-h-44px">
          <span class="soft">
            try {{ sayNumber(turns[one.name] ?? 0, 2) }}
            {{ one.unit === 'turn' ? 'turns' : one.unit }}
          </span>
          <el-slider
            :show-tooltip="false"
            :aria-label="`${wheel.label} ${one.name}: try`"
            :min="Math.max(one.low_turns, -8)"
            :max="Math.min(one.high_turns, 8)"
            :step="one.step_turns"
            :model-value="turns[one.name] ?? 0"
            @input="turn(one.name, $event)"
          />
        </label>
      </div>
      <table v-if="wheel.targets.length" class="sheet-table">
        <thead>
          <tr>
            <th></th>
            <th>Untouched</th>
            <th>Wanted</th>
            <th>With the turns</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="one in wheel.targets" :key="one.name">
            <th>{{ one.name[0]!.toUpperCase() + one.name.slice(1) }}</th>
            <td>{{ sayNumber(one.before_deg, 2) }}°</td>
            <td>{{ sayNumber(one.wanted_deg, 2) }}° ± {{ sayNumber(one.tolerance_deg, 2) }}</td>
            <td :class="one.verdict === 'likely' ? 'go' : 'wait'">
              {{ VERDICTS[one.verdict] }} {{ sayNumber(one.after_deg, 2) }}°
              <template v-if="one.plus_minus_deg !== null">
                ± {{ sayNumber(one.plus_minus_deg, 2) }}
              </template>
              <div v-if="one.chance_pct !== null">
                inside in {{ sayNumber(one.chance_pct, 0) }} of 100
              </div>
              <div v-if="one.why">{{ one.why }}</div>
            </td>
          </tr>
        </tbody>
      </table>
      <el-alert
        v-for="one in wheel.worth"
        :key="one.said"
        type="info"
        :closable="false"
        role="note"
      >
        {{ one.said }}: {{ one.becomes }}; {{ one.minutes }} minutes.
      </el-alert>
      <p v-if="chance !== null" class="soft">
        Chance of this wheel ending inside: <b class="figure">{{ sayNumber(chance, 0) }} %</b>.
      </p>
    </template>
  </section>
</template>

<style scoped>
.go {
  color: var(--go);
}

.wait {
  font-weight: 600;
  color: var(--wait);
}
</style>
