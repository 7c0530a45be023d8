<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { connection } from '../api/connection'
import { sayMoment } from '../composables/useWords'
import { ElAlert, later } from '../parts/later'
import { useQueue } from '../stores/queue'

const NewVersion = later(() => import('./NewVersion.vue'))

/** Above every page: how old what is shown is, what waits elsewhere, and that a new version is there. */
const queue = useQueue()
const route = useRoute()
const keptAt = computed(() => (connection.keptAt ? sayMoment(connection.keptAt) : ''))
const elsewhere = computed(() =>
  queue.books
    .filter((one) => ![route.params.jobId, route.params.carId].includes(one.book))
    .map((one) => ({
      ...one,
      count: queue.of(one.book).length,
      refused: Boolean(queue.refusalOf(one.book)),
      to: one.kind === 'jobs' ? `/job/${one.book}` : `/car/${one.book}`,
    })),
)
</script>

<template>
  <div class="bar screen-only grid gap-6px max-w-1240px py-0 px-20px my-0 mx-auto">
    <el-alert
      v-if="connection.lost && (connection.words || keptAt)"
      role="status"
      type="warning"
      :closable="false"
    >
      <span>
        {{ connection.words }}
        <template v-if="keptAt">As read at {{ keptAt }}.</template>
        Entries are kept here and sent later.
      </span>
    </el-alert>
    <el-alert
      v-for="one in elsewhere"
      :key="one.book"
      role="status"
      type="warning"
      :closable="false"
    >
      <span>
        {{ one.title || 'A job or car' }}:
        {{ one.count === 1 ? '1 entry waits' : `${one.count} entries wait` }}
        {{ one.refused ? 'for you: one was refused.' : 'to be sent.' }}
      </span>
      <router-link :to="one.to">Open it →</router-link>
    </el-alert>
    <NewVersion />
  </div>
</template>

<style scoped>
.bar:not(:empty) > p:first-child {
  margin-top: 8px;
}
</style>
