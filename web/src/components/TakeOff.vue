<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import FoldAway from './FoldAway.vue'
import { ref } from 'vue'
import { useActing } from '../composables/useActing'

/** What no plan names, noted while it comes off; it comes back as a step of its own. */
const props = defineProps<{ step: string }>()
const OFTEN = ['Undertray', 'Arch liner', 'Cover', 'Wiper arms', 'Bracket', 'Hose or cable clip']
const MOST = 24
const { problem, busy, act } = useActing()
const fasteners = ref(0)
const name = ref('')
const place = ref('')

async function note(what: string): Promise<void> {
  if (!what.trim()) return
  const told = { name: what.trim(), fasteners: fasteners.value, place: place.value.trim() }
  if (!(await act({ kind: 'taken_off', ...told, step: props.step }))) return
  fasteners.value = 0
  name.value = ''
  place.value = ''
}
</script>

<template>
  <FoldAway class="off" title="Something else came off…">
    <div class="stack">
      <p class="soft">
        How many small fasteners, then what. It comes back as a step before the car is driven.
      </p>
      <div class="row">
        <label>
          Clips, screws, nuts
          <el-select v-model="fasteners" :persistent="false" aria-label="Clips, screws, nuts">
            <el-option
              v-for="count in MOST + 1"
              :key="count"
              :value="count - 1"
              :label="count - 1 || 'none'"
            />
          </el-select>
        </label>
        <label class="grow">
          Where it lies, what to mind
          <el-input v-model="place" maxlength="200" autocomplete="off" />
        </label>
      </div>
      <div class="row" role="group" aria-label="What came off">
        <el-button v-for="one in OFTEN" :key="one" :disabled="busy" @click="note(one)">
          {{ one }}
        </el-button>
      </div>
      <form class="row" @submit.prevent="note(name)">
        <el-input
          v-model="name"
          class="grow"
          maxlength="80"
          placeholder="Something else"
          aria-label="What else came off"
          autocomplete="off"
        />
        <el-button native-type="submit" :disabled="busy || !name.trim()">It came off</el-button>
      </form>
      <RefusalNote :said="problem" />
    </div>
  </FoldAway>
</template>
