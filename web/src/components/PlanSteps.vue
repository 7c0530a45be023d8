<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Brief, PlanStepView } from '../api/client'
import OwnStepForm from './OwnStepForm.vue'
import ReasonDialog from './ReasonDialog.vue'

const props = defineProps<{ steps: PlanStepView[] }>()
const brief = defineModel<Brief>({ required: true })
const open = ref('')
const leaving = ref<PlanStepView | null>(null)
const asking = computed({ get: () => !!leaving.value, set: (on) => on || (leaving.value = null) })
const adding = ref(false)
const stretches = computed(() =>
  props.steps.reduce<{ where: string; steps: { step: PlanStepView; number: number }[] }[]>(
    (all, step, place) => {
      const last = all.at(-1)
      const line = { step, number: place + 1 }
      if (last?.where === step.where_said) last.steps.push(line)
      else all.push({ where: step.where_said, steps: [line] })
      return all
    },
    [],
  ),
)

function leaveOut(reason: string): void {
  if (!leaving.value) return
  brief.value = {
    ...brief.value,
    dropped: { ...brief.value.dropped, [leaving.value.key]: reason },
  }
  leaving.value = null
}

function bringBack(key: string): void {
  const dropped = Object.fromEntries(
    Object.entries(brief.value.dropped ?? {}).filter(([one]) => one !== key),
  )
  brief.value = { ...brief.value, dropped }
}

function after(step: PlanStepView, first: string): void {
  if (!first) return
  brief.value = { ...brief.value, later: [...(brief.value.later ?? []), { first, then: step.key }] }
}

function forget(place: number): void {
  brief.value = { ...brief.value, later: brief.value.later?.filter((_, at) => at !== place) }
}

function addOwn(step: NonNullable<Brief['added']>[number]): void {
  brief.value = { ...brief.value, added: [...(brief.value.added ?? []), step] }
  adding.value = false
}
const titleOf = (key: string) => props.steps.find((one) => one.key === key)?.title ?? key
</script>

<template>
  <div class="stack">
    <section
      v-for="(stretch, at) in stretches"
      :key="at"
      class="pl-12px b-l-5px b-l-solid b-l-line"
    >
      <h3>Car {{ stretch.where }}</h3>
      <ol class="p-0 mt-6px mx-0 mb-0 list-none">
        <li v-for="{ step, number } in stretch.steps" :key="step.key">
          <button
            type="button"
            class="line grid grid-cols-[40px_minmax(0,1fr)_auto] gap-8px items-baseline w-full min-h-44px py-8px px-4px text-left b-b-1px b-b-solid bare-button b-b-line"
            :aria-expanded="open === step.key"
            @click="open = open === step.key ? '' : step.key"
          >
            <span class="figure text-18px c-soft">{{ number }}</span>
            <span>
              {{ step.title }}
              <span v-if="step.two_people" class="soft"> · two people</span>
              <span v-if="step.wait" class="soft"> · then wait {{ step.wait }}</span>
            </span>
            <span class="soft figure">{{ step.minutes }}</span>
          </button>
          <div v-if="open === step.key" class="grid gap-8px pt-10px pr-4px pb-16px pl-48px">
            <p v-if="step.detail">{{ step.detail }}</p>
            <p v-if="step.tools.length" class="soft">{{ step.tools.join(' · ') }}</p>
            <el-alert
              v-for="one in step.cautions"
              :key="one"
              type="error"
              :closable="false"
              role="note"
              >▲ {{ one }}</el-alert
            >
            <el-alert v-if="step.school" type="warning" :closable="false" role="note">{{
              step.school
            }}</el-alert>
            <div v-if="step.why.length">
              <b>Why here</b>
              <ul class="pl-20px mt-2px mx-0 mb-0">
                <li v-for="one in step.why" :key="one">{{ one }}</li>
              </ul>
            </div>
            <p v-if="step.by.length" class="soft">For: {{ step.by.join('; ') }}</p>
            <div v-if="step.may_go" class="row">
              <el-select
                :persistent="false"
                model-value=""
                :aria-label="`Do ${step.title} only after`"
                :empty-values="[null, undefined]"
                @change="after(step, $event)"
              >
                <el-option value="" label="Only after…" />
                <el-option
                  v-for="other in steps.filter((one) => one.may_go && one.key !== step.key)"
                  :key="other.key"
                  :value="other.key"
                  :label="other.title"
                />
              </el-select>
              <el-button @click="leaving = step">Leave it out…</el-button>
            </div>
          </div>
        </li>
      </ol>
    </section>
    <section class="card stack" aria-label="Changes of our own">
      <h3>Changes of our own</h3>
      <p v-for="(reason, key) in brief.dropped" :key="key" class="row">
        <span
          >Left out: {{ key }} <span class="soft">({{ reason }})</span></span
        >
        <el-button text @click="bringBack(String(key))">Bring back</el-button>
      </p>
      <p v-for="(one, place) in brief.later" :key="place" class="row">
        <span>“{{ titleOf(one.then) }}” only after “{{ titleOf(one.first) }}”</span>
        <el-button text @click="forget(place)">Take back</el-button>
      </p>
      <OwnStepForm v-if="adding" :steps="steps" @add="addOwn" @back="adding = false" />
      <el-button v-else @click="adding = true">+ A step of our own</el-button>
    </section>
    <ReasonDialog
      v-model="asking"
      :title="`Leave out: ${leaving?.title ?? ''}`"
      confirm="Leave it out"
      @given="leaveOut"
    />
  </div>
</template>

<style scoped>
.line[aria-expanded='true'] {
  font-weight: 600;
  background: var(--wait-wash);
}
</style>
