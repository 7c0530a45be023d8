<script setup lang="ts">
import { ref } from 'vue'
import type { BookView } from '../api/client'
import { connection } from '../api/connection'
import type { Book } from '../stores/book'
import JumpList from './JumpList.vue'
import RefusalNote from './RefusalNote.vue'
import UndoBar from './UndoBar.vue'
import WaitingPanel from './WaitingPanel.vue'

/** Below the band of a job or car: that it is not there, that it is being read, or what it shows. */
defineProps<{
  book: Book<BookView>
  what: 'job' | 'record'
  gone: string
  closed?: boolean
}>()
const page = ref<HTMLElement | null>(null)
</script>

<template>
  <main ref="page" class="sheet">
    <div v-if="book.missing.value" class="stack">
      <RefusalNote :said="gone" />
      <WaitingPanel :book="book" />
    </div>
    <template v-else-if="!book.view.value || !book.sheet.value">
      <p v-if="connection.lost" class="soft">
        This {{ what }} was not looked at on this device before, so it cannot be shown without a
        connection.
      </p>
      <div v-else role="status" :aria-label="`Reading the ${what}`">
        <el-skeleton :rows="8" animated />
      </div>
    </template>
    <template v-else>
      <UndoBar :book="book" :closed="closed" />
      <slot />
      <router-view />
      <JumpList :page="page" />
    </template>
  </main>
</template>
