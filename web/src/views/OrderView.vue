<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import { computed, ref } from 'vue'
import KnownCard from '../components/KnownCard.vue'
import FittingCard from '../components/FittingCard.vue'
import PlanLists from '../components/PlanLists.vue'
import PlanSteps from '../components/PlanSteps.vue'
import ProcedurePicker from '../components/ProcedurePicker.vue'
import SaveProcedure from '../components/SaveProcedure.vue'
import SchoolChoices from '../components/SchoolChoices.vue'
import { usePlan } from '../composables/usePlan'
import { useJob } from '../stores/job'

const store = useJob()
const planning = usePlan()
const { brief, procedures, plan, problem, busy, changed } = planning
const part = ref<'steps' | 'lists'>('steps')
const blocks = computed(() => plan.value?.remarks.filter((one) => one.severity === 'blocks') ?? [])
const others = computed(() => plan.value?.remarks.filter((one) => one.severity !== 'blocks') ?? [])
const questions = (place: number) =>
  plan.value?.questions.filter((one) => one.fitting === place) ?? []
const procedureOf = (key: string) => procedures.value.find((one) => one.key === key)

function lift(both: boolean): void {
  brief.value = { ...brief.value, lift: both ? 'both_ends' : 'one_end' }
}
</script>

<template>
  <div
    class="grid grid-cols-[minmax(0,400px)_minmax(0,1fr)] gap-20px items-start lt-tablet:one-col"
  >
    <section class="stack" aria-label="What is fitted">
      <h2>Work order</h2>
      <FittingCard
        v-for="(fitting, place) in brief.fittings"
        :key="fitting.procedure + fitting.axle"
        :fitting="fitting"
        :procedure="procedureOf(fitting.procedure)"
        :questions="questions(place)"
        @change="planning.change(place, $event)"
        @remove="planning.remove(place)"
      />
      <ProcedurePicker
        :procedures="procedures"
        :taken="brief.fittings"
        @add="(key, axle) => planning.add(key, axle)"
      />
      <div v-if="brief.fittings.length" class="card stack">
        <h3>Raising</h3>
        <div class="row" role="group" aria-label="Raising">
          <el-button class="pick" :aria-pressed="brief.lift !== 'one_end'" @click="lift(true)">
            Both ends at once
          </el-button>
          <el-button class="pick" :aria-pressed="brief.lift === 'one_end'" @click="lift(false)">
            One end after the other
          </el-button>
        </div>
      </div>
      <SchoolChoices v-if="plan?.schools.length" v-model="brief" :schools="plan.schools" />
    </section>
    <section class="stack" aria-label="The plan">
      <RefusalNote :said="problem" />
      <p v-if="!brief.fittings.length" class="card">
        Choose what is fitted. The steps, the tools and what to buy follow from it; several parts on
        one car become one plan.
      </p>
      <template v-if="plan && brief.fittings.length">
        <div class="card sum flex flex-wrap gap-y-6px gap-x-20px items-center">
          <p>
            <b class="figure text-24px">{{ plan.steps.length }}</b> steps
          </p>
          <p>
            <b class="figure text-24px">{{ plan.time_said }}</b> of work
          </p>
          <p v-if="plan.wait_said">
            <b class="figure text-24px">{{ plan.wait_said }}</b> to wait
          </p>
          <p>
            raised <b class="figure text-24px">{{ plan.raises }}</b>
            {{ plan.raises === 1 ? 'time' : 'times' }}
          </p>
          <p>{{ plan.helper ? '▲ a helper is needed' : 'one person' }}</p>
          <el-button
            v-if="changed || !plan.taken"
            type="primary"
            :disabled="busy || !!store.job?.signature"
            @click="planning.take()"
          >
            {{ store.job?.steps.length ? 'Take the new plan' : 'Take this plan' }}
          </el-button>
          <p v-else class="go c-go" role="status">✓ This is the job's plan.</p>
        </div>
        <KnownCard :foreseen="plan.foreseen" />
        <el-alert
          v-for="one in blocks"
          :key="one.message"
          type="error"
          :closable="false"
          role="note"
        >
          <span
            >✕ {{ one.message }} <span class="soft">{{ one.reason }}</span></span
          >
        </el-alert>
        <el-alert
          v-for="one in others"
          :key="one.message"
          type="warning"
          :closable="false"
          role="note"
        >
          <span
            >▲ {{ one.message }} <span class="soft">{{ one.reason }}</span></span
          >
        </el-alert>
        <div class="row" role="group" aria-label="Parts of the plan">
          <el-button
            v-for="one in ['steps', 'lists'] as const"
            :key="one"
            class="pick"
            :aria-pressed="part === one"
            @click="part = one"
          >
            {{ one === 'steps' ? 'Steps' : 'Tools, hardware, bookings' }}
          </el-button>
          <template v-if="plan.taken">
            <a :href="`${store.path}/clipboard.pdf`" class="py-10px px-4px font-600"
              >Clipboard sheet</a
            >
            <a
              v-for="axle in ['front', 'rear']"
              :key="axle"
              :href="`${store.path}/clipboard.pdf?axle=${axle}`"
              class="py-10px px-4px font-600"
              >{{ axle }} axle</a
            >
          </template>
        </div>
        <PlanSteps v-if="part === 'steps'" v-model="brief" :steps="plan.steps" />
        <PlanLists v-else :plan="plan" />
        <SaveProcedure :busy="busy" @save="(key, title) => planning.saveAs(key, title)" />
      </template>
    </section>
  </div>
</template>

<style scoped>
.sum .el-button,
.sum .go {
  margin-left: auto !important;
}
</style>
