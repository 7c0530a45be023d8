<script setup lang="ts">
import { computed, onUnmounted, ref, watch } from 'vue'
import { connection } from '../api/connection'
import BookBand from '../components/BookBand.vue'
import JumpList from '../components/JumpList.vue'
import PracticeBar from '../components/PracticeBar.vue'
import PositionMark from '../components/PositionMark.vue'
import StateLine from '../components/StateLine.vue'
import UndoBar from '../components/UndoBar.vue'
import WaitingPanel from '../components/WaitingPanel.vue'
import { provideDesk } from '../composables/useDesk'
import { useJob } from '../stores/job'

const props = defineProps<{ jobId: string }>()
const page = ref<HTMLElement | null>(null)
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
      <StateLine :steps="store.job.steps" />
    </template>
  </BookBand>
  <main ref="page" class="sheet">
    <div v-if="store.missing" class="stack">
      <el-alert type="error" :closable="false" role="alert"
        >There is no such job here. Go back to all jobs.</el-alert
      >
      <WaitingPanel :book="store.book()" />
    </div>
    <p v-else-if="!store.job || !store.sheet" class="soft">
      {{
        connection.lost
          ? 'This job was not looked at on this device before, so it cannot be shown without a connection.'
          : 'Reading the job…'
      }}
    </p>
    <template v-else>
      <UndoBar :book="store.book()" :closed="!!store.job.signature" />
      <PracticeBar v-if="store.job.practice" />
      <router-view />
      <JumpList :page="page" />
    </template>
  </main>
</template>
