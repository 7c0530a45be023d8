<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Fitting, ProcedureView } from '../api/client'

const props = defineProps<{ procedures: ProcedureView[]; taken: Fitting[] }>()
const emit = defineEmits<{ add: [key: string, axle: string] }>()
const sought = ref('')
const isTaken = (key: string, axle: string) =>
  props.taken.some((one) => one.procedure === key && one.axle === axle)
const plain = (text: string) => text.toLowerCase().replaceAll('-', ' ')
/** Every word has to be found, in the singular too; what carries them in its name stands first, what fits before the rest. */
const found = computed(() => {
  const words = plain(sought.value).split(/\s+/).filter(Boolean)
  const holds = (text: string) =>
    words.every((word) => text.includes(word) || text.includes(word.replace(/s$/, '')))
  const rank = (one: ProcedureView) => `${one.fits ? 0 : 1}${holds(one.named) ? 0 : 1}`
  return props.procedures
    .filter((one) => holds(one.sought))
    .sort((one, other) => rank(one).localeCompare(rank(other)))
})
const name = (axle: string) => (axle ? axle[0]!.toUpperCase() + axle.slice(1) : 'Add')
</script>

<template>
  <section class="card stack" aria-label="Add what is fitted">
    <h3>Add what is fitted</h3>
    <input v-model="sought" class="box" type="search" placeholder="Part or job" aria-label="Find" />
    <ul>
      <li v-for="one in found" :key="one.key" :class="{ no: !one.fits }">
        <div class="words">
          <b>{{ one.title }}</b>
          <span v-if="one.own" class="own">our own</span>
          <p class="soft">{{ one.fits ? one.about : one.why_not }}</p>
        </div>
        <div v-if="one.fits" class="where">
          <button
            v-for="axle in one.axles.length ? one.axles : ['']"
            :key="axle"
            type="button"
            class="pick"
            :disabled="isTaken(one.key, axle)"
            :aria-label="`${one.title}: ${axle || 'add'}`"
            @click="emit('add', one.key, axle)"
          >
            {{ isTaken(one.key, axle) ? '✓' : '+' }} {{ name(axle) }}
          </button>
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  max-height: 460px;
  padding: 0;
  margin: 0;
  overflow-y: auto;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 12px;
  padding: 10px 0;
  border-top: 1px solid var(--line);
}

.words p {
  font-size: 15px;
}

.where {
  display: grid;
  gap: 6px;
  align-content: start;
}

.no b {
  color: var(--soft);
}

.own {
  padding: 0 8px;
  margin-left: 6px;
  font-size: 14px;
  color: var(--go);
  border: 1px solid currentcolor;
  border-radius: 10px;
}
</style>
