<script setup lang="ts">
import { computed, onUnmounted, watch } from 'vue'
import BookBand from '../components/BookBand.vue'
import BookPage from '../components/BookPage.vue'
import PracticeBar from '../components/PracticeBar.vue'
import PositionMark from '../components/PositionMark.vue'
import StateLine from '../components/StateLine.vue'
import { provideDesk } from '../composables/useDesk'
import { useJob } from '../stores/job'

const props = defineProps<{ jobId: string }>()
const store = useJob()
provideDesk(store.book())
const LABELS: Record<string, string> = {
  order: 'Order',
  baseline: 'Baseline',
  plan: 'Plan',
  springs: 'Springs',
  turns: 'Turns',
  floor: 'Floor',
  bolts: 'Bolts',
  check: 'Check',
  record: 'Record',
}
const pages = computed(() =>
  (store.job?.pages ?? []).map((name) => ({
    name,
    label: LABELS[name] ?? name,
    also: { baseline: 'walk', check: 'walk-again' }[name],
  })),
)

watch(
  () => props.jobId,
  (jobId) => void store.open(jobId),
  { immediate: true },
)
onUnmounted(() => store.close())
</script>

<template>
  <BookBand
    home="workshop"
    home-label="All jobs"
    :title="store.job?.car ?? ''"
    :detail="store.job?.title ?? ''"
    :waiting="store.unsent"
    :refused="store.refused"
    :pages="pages"
    label="Parts of the job"
  >
    <template v-if="store.job">
      <PositionMark :position="store.job.position" :said="store.job.position_said" />
      <StateLine v-if="store.job.steps.length" :steps="store.job.steps" />
    </template>
  </BookBand>
  <BookPage
    :book="store.book()"
    what="job"
    gone="There is no such job here. Go back to all jobs."
    :closed="!!store.job?.signature"
  >
    <PracticeBar v-if="store.job?.practice" />
  </BookPage>
</template>
