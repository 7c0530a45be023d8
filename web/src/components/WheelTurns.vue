<script setup lang="ts">
import FieldsHere from './FieldsHere.vue'
import FoldAway from './FoldAway.vue'
import RefusalNote from './RefusalNote.vue'
import { computed } from 'vue'
import type { WheelTurnsView } from '../api/client'
import { useActing } from '../composables/useActing'
import { VERDICTS, sayNumber } from '../composables/useWords'

const props = defineProps<{ wheel: WheelTurnsView }>()
const { problem, busy, act } = useActing()
const again = computed(() => new Set(props.wheel.read_again.map((one) => one.name)))
/** What was planned of an angle says nothing more once it was read after the work. */
const fields = computed(() => [
  ...new Set([...props.wheel.asked, ...props.wheel.worth.slice(0, 1).flatMap((one) => one.fields)]),
])
const planned = computed(() => props.wheel.targets.filter((one) => !again.value.has(one.name)))

function turn(adjuster: string, steps: number): void {
  const wheel = props.wheel.key as 'front'
  void act({ kind: 'turned', wheel, adjuster, steps })
}
</script>

<template>
  <section class="card grid one-col gap-10px content-start" :aria-label="wheel.label">
    <h3>{{ wheel.label }}</h3>
    <el-alert v-if="wheel.problem" type="warning" :closable="false" role="note">{{
      wheel.problem
    }}</el-alert>
    <el-alert v-if="wheel.lacks.length" type="warning" :closable="false" role="note">
      Still to be measured: {{ wheel.lacks.join(', ') }}.
    </el-alert>
    <div
      v-for="one in wheel.counts"
      :key="one.name"
      class="grid gap-6px pt-8px ruled"
      role="group"
      :aria-label="one.name"
    >
      <div class="flex flex-wrap gap-y-2px gap-x-14px">
        <b>{{ one.name }}</b>
        <span class="soft">
          <template v-if="!wheel.read_again.length">planned {{ one.planned_said }} · </template>so
          far {{ one.turned_said }}
        </span>
        <span v-if="one.needed" class="wait">▲ {{ one.needed }}</span>
        <span v-if="one.check" class="wait">{{ one.check }}</span>
      </div>
      <div class="grid grid-cols-[84px_minmax(0,1fr)_84px] gap-10px items-center">
        <button
          type="button"
          :disabled="busy"
          :aria-label="`${wheel.label} ${one.name}: one step shorter`"
          class="min-h-68px [font:600_34px_var(--figures)] cursor-pointer bg-card b-2px b-solid b-go rounded"
          @click="turn(one.name, -1)"
        >
          −
        </button>
        <span class="figure left" :class="{ there: one.left === 0 && !wheel.doubt }" role="status">
          {{ wheel.doubt ? 'read again first' : one.left === 0 ? '✓ there' : one.left_said }}
        </span>
        <button
          type="button"
          :disabled="busy"
          :aria-label="`${wheel.label} ${one.name}: one step longer`"
          class="min-h-68px [font:600_34px_var(--figures)] cursor-pointer bg-card b-2px b-solid b-go rounded"
          @click="turn(one.name, 1)"
        >
          +
        </button>
      </div>
      <p v-if="one.range_said && !wheel.doubt" class="text-center" role="note">
        between {{ one.range_said }}
      </p>
      <p v-if="one.first_said && !wheel.doubt" class="wait text-center" role="note">
        {{ one.first_said }}
      </p>
      <p class="soft text-center">
        one tap: {{ one.step_said
        }}<template v-if="one.by_length"> · the plan in length: {{ one.by_length }}</template>
      </p>
    </div>
    <el-alert v-if="wheel.doubt" type="warning" :closable="false" role="note">{{
      wheel.doubt
    }}</el-alert>
    <RefusalNote :said="problem" />
    <p v-for="one in planned" :key="one.name">
      {{ one.name[0]!.toUpperCase() + one.name.slice(1) }}: untouched
      {{ sayNumber(one.before_deg, 2) }}°, with the plan
      <b :class="one.verdict === 'likely' ? 'go' : 'wait'"
        >{{ VERDICTS[one.verdict] }} {{ sayNumber(one.after_deg, 2) }}°</b
      >
      <template v-if="one.plus_minus_deg !== null">
        ± {{ sayNumber(one.plus_minus_deg, 2) }}</template
      >, wanted {{ sayNumber(one.wanted_deg, 2) }}°<template v-if="one.chance_pct !== null"
        >, inside in {{ sayNumber(one.chance_pct, 0) }} of 100</template
      >. {{ one.why }}
    </p>
    <p v-for="one in wheel.read_again" :key="`read ${one.name}`">
      <b :class="one.inside ? 'go' : 'wait'">
        {{ one.inside ? '✓' : '▲' }} {{ one.name }} read at {{ sayNumber(one.read_deg, 2) }}°
      </b>
      <template v-if="one.comes_to_deg !== null && one.comes_to_deg !== undefined">
        comes to {{ sayNumber(one.comes_to_deg, 2) }}° ±
        {{ sayNumber(one.comes_to_plus_minus_deg ?? 0, 2) }} with what is still wanted
      </template>
    </p>
    <p v-if="wheel.assumed" class="soft">{{ wheel.assumed }}</p>
    <p v-for="one in wheel.worth.slice(0, 1)" :key="one.said" class="soft">
      {{ one.said }} ({{ one.minutes }} min): {{ one.becomes }}.
    </p>
    <FoldAway v-if="fields.length" title="Tell it here"><FieldsHere :keys="fields" /></FoldAway>
  </section>
</template>

<style scoped>
.left {
  font-size: 28px;
  line-height: 1.1;
  text-align: center;
}

.there,
.go {
  color: var(--go);
}

.wait {
  font-weight: 600;
  color: var(--wait);
}
</style>
