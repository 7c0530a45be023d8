<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import type { BookView } from '../api/client'
import { connection } from '../api/connection'
import type { Waiting } from '../api/shelf'
import type { Book } from '../stores/book'
import { useQueue } from '../stores/queue'

/** Entries of this job or car that are not in the log yet; where one was refused, a person says what becomes of it. */
const props = defineProps<{ book: Book<BookView> }>()
const queue = useQueue()
const router = useRouter()
const { id, waiting, version } = props.book
const refused = computed(() => queue.refusalOf(id.value))
const shown = computed(() => waiting.value.length > 0 && (connection.lost || refused.value))
const PAGES: Partial<Record<string, string>> = { worked: 'bolts', drawn: 'bolts', counted: 'turns' }

const drop = (ids: string[]) => queue.drop(id.value, ids)

async function again(): Promise<void> {
  if (await queue.again(id.value, version.value)) await props.book.look()
}

/** Out of the queue and back to where it is typed, what was typed with it. */
function change(one: Waiting): void {
  const { act } = one.entry
  props.book.putBack(act)
  drop([one.entry.id])
  if (one.kind === 'jobs') void router.push({ name: PAGES[act.kind] ?? pageOf(act.kind) })
}

const pageOf = (kind: string) => (kind === 'entered' ? 'baseline' : 'floor')
</script>

<template>
  <section v-if="shown" class="card stack" aria-label="Waiting to be sent">
    <h3>
      {{
        refused ? '✕ One entry was refused; it and what follows wait for you' : 'Waiting to be sent'
      }}
    </h3>
    <ol class="grid gap-10px pl-22px m-0">
      <li v-for="one in waiting" :key="one.entry.id" class="stack">
        <span>{{ one.said || one.entry.act.kind }}</span>
        <template v-if="refused?.id === one.entry.id">
          <el-alert type="error" :closable="false" role="alert">{{
            refused.error.message
          }}</el-alert>
          <div class="row">
            <el-button type="primary" @click="again">Send it all the same</el-button>
            <el-button @click="change(one)">Change it</el-button>
            <el-button @click="drop([one.entry.id])">Leave it out</el-button>
          </div>
        </template>
        <el-button
          v-else-if="refused"
          text
          class="justify-self-start"
          @click="drop([one.entry.id])"
        >
          Leave this out too
        </el-button>
      </li>
    </ol>
    <el-button
      v-if="refused && waiting.length > 1"
      class="justify-self-start"
      @click="drop(waiting.map((one) => one.entry.id))"
    >
      Leave out all {{ waiting.length }}
    </el-button>
  </section>
</template>
