<script setup lang="ts">
import { ref } from 'vue'
import { newId, type Brief, type PlanStepView } from '../api/client'

type OwnStep = NonNullable<Brief['added']>[number]
defineProps<{ steps: PlanStepView[] }>()
const emit = defineEmits<{ add: [step: OwnStep]; back: [] }>()
const PHASES = [
  { value: 3, label: 'Prepare' },
  { value: 5, label: 'Free' },
  { value: 6, label: 'Swap' },
  { value: 8, label: 'Torque what may hang' },
  { value: 12, label: 'Settle and measure' },
  { value: 13, label: 'Mark and test' },
]
const title = ref('')
const detail = ref('')
const phase = ref(6)
const where = ref<OwnStep['where']>('any')
const first = ref('')

function add(): void {
  if (!title.value.trim()) return
  emit('add', {
    key: `own.${newId().slice(0, 8)}`,
    title: title.value.trim(),
    detail: detail.value.trim(),
    phase: phase.value,
    where: where.value,
    axle: '',
    side: '',
    after: first.value ? [first.value] : [],
    minutes: [5, 10],
  })
}
</script>

<template>
  <form class="stack" @submit.prevent="add">
    <label class="labelled">What is done <el-input v-model="title" maxlength="120" /></label>
    <label class="labelled">In more words <el-input v-model="detail" maxlength="500" /></label>
    <div class="pair">
      <label class="labelled">
        Part of the work
        <el-select v-model="phase" :persistent="false" aria-label="Part of the work">
          <el-option v-for="one in PHASES" :key="one.value" :value="one.value" :label="one.label" />
        </el-select>
      </label>
      <label class="labelled">
        The car
        <el-select v-model="where" :persistent="false" aria-label="The car">
          <el-option value="any" label="anywhere" />
          <el-option value="on_wheels" label="on its wheels" />
          <el-option value="hanging" label="hanging on stands" />
        </el-select>
      </label>
    </div>
    <label class="labelled">
      After
      <el-select
        v-model="first"
        :persistent="false"
        aria-label="After"
        :empty-values="[null, undefined]"
      >
        <el-option value="" label="where it fits" />
        <el-option
          v-for="one in steps.filter((each) => each.may_go)"
          :key="one.key"
          :value="one.key"
          :label="one.title"
        />
      </el-select>
    </label>
    <div class="row">
      <el-button type="primary" native-type="submit" :disabled="!title.trim()">Add it</el-button>
      <el-button @click="emit('back')">Back</el-button>
    </div>
  </form>
</template>
