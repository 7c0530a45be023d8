<script setup lang="ts">
import FoldAway from './FoldAway.vue'
import { computed, ref } from 'vue'
import type { Fitting, ProcedureView, QuestionView } from '../api/client'
import { SIDES } from '../api/client'

const props = defineProps<{
  fitting: Fitting
  procedure: ProcedureView | undefined
  questions: QuestionView[]
}>()
const emit = defineEmits<{ change: [part: Partial<Fitting>]; remove: [] }>()
const compared = ref({ ...props.fitting.compared })
const apart = ref(Object.keys(compared.value).some((key) => /\.(left|right)$/.test(key)))
const rows = computed(() =>
  (props.procedure?.checks ?? []).flatMap((check) =>
    apart.value
      ? SIDES.map((side) => ({ key: `${check.key}.${side}`, label: `${check.label}, ${side}` }))
      : [check],
  ),
)
type Sides = NonNullable<Fitting['sides']>
const sides = () => props.fitting.sides ?? [...SIDES]

function toggle(side: 'left' | 'right'): void {
  const now = sides()
  const then = SIDES.filter((one) => (one === side ? !now.includes(one) : now.includes(one)))
  if (then.length) emit('change', { sides: then as Sides })
}

function tell(key: string, value: string): void {
  emit('change', { options: { ...props.fitting.options, [key]: value } })
}

function compare(key: string, which: 'old' | 'new', text: string): void {
  // Built on what was typed, not on what has been answered: two fields after each other both count.
  compared.value = {
    ...compared.value,
    [key]: { ...(compared.value[key] ?? { old: '', new: '' }), [which]: text },
  }
}
</script>

<template>
  <article class="card stack" :aria-label="procedure?.title ?? fitting.procedure">
    <div class="flex gap-10px items-start justify-between">
      <h3>
        {{ procedure?.title ?? fitting.procedure
        }}<template v-if="fitting.axle">, {{ fitting.axle }}</template>
      </h3>
      <el-button text :aria-label="`Take off: ${procedure?.title}`" @click="emit('remove')">
        Take off
      </el-button>
    </div>
    <div v-if="procedure?.by_side" class="row" role="group" aria-label="Sides">
      <el-button
        v-for="side in SIDES"
        :key="side"
        class="pick"
        :aria-pressed="sides().includes(side)"
        @click="toggle(side)"
      >
        {{ side === 'left' ? 'Left' : 'Right' }}
      </el-button>
    </div>
    <label v-for="one in questions" :key="one.key" class="labelled">
      <span>{{ one.label }} <span v-if="!one.told" class="soft">assumed</span></span>
      <el-select
        :persistent="false"
        :model-value="one.answer"
        :aria-label="one.label"
        @change="tell(one.key, $event)"
      >
        <el-option
          v-for="choice in one.choices"
          :key="choice.value"
          :value="choice.value"
          :label="choice.label"
        />
      </el-select>
    </label>
    <FoldAway v-if="procedure?.checks.length" title="Old part beside new">
      <el-button
        v-if="procedure.by_side && sides().length === 2"
        class="pick"
        :aria-pressed="apart"
        @click="apart = !apart"
      >
        Left and right each for itself
      </el-button>
      <div
        v-for="row in rows"
        :key="row.key"
        class="grid grid-cols-[minmax(0,1fr)_92px_92px] gap-6px items-center mb-6px"
      >
        <span>{{ row.label }}</span>
        <el-input
          v-for="which in ['old', 'new'] as const"
          :key="which"
          :model-value="compared[row.key]?.[which] ?? ''"
          :placeholder="which"
          :aria-label="`${row.label}: ${which}`"
          @update:model-value="compare(row.key, which, $event)"
          @change="emit('change', { compared })"
        />
      </div>
    </FoldAway>
  </article>
</template>
