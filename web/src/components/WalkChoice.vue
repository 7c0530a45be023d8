<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { useEventListener } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import type { FieldView } from '../api/client'
import { useActing } from '../composables/useActing'
import { useDesk } from '../composables/useDesk'

const props = defineProps<{ field: FieldView }>()
const emit = defineEmits<{ saved: [] }>()
const desk = useDesk()
const { problem, busy, act } = useActing()
const chosen = computed(() => desk.entries.value[props.field.key]?.choice ?? '')
const first = ref<HTMLElement[]>([])

async function choose(choice: string): Promise<void> {
  if (choice === chosen.value || (await act({ kind: 'entered', key: props.field.key, choice })))
    emit('saved')
}

function byNumber(event: KeyboardEvent): void {
  if (event.target instanceof HTMLInputElement || event.altKey || event.ctrlKey) return
  const one = props.field.choices['123456789'.indexOf(event.key)]
  if (one) void choose(one.value)
}

useEventListener('keydown', byNumber)
onMounted(() => first.value[0]?.focus())
</script>

<template>
  <div class="grid gap-10px" role="group" :aria-label="field.label">
    <button
      v-for="(one, place) in field.choices"
      :key="one.value"
      ref="first"
      type="button"
      :class="{ on: one.value === chosen }"
      :aria-pressed="one.value === chosen"
      :disabled="busy"
      class="min-h-60px py-8px px-18px text-20px text-left cursor-pointer bg-card edged-soft"
      @click="choose(one.value)"
    >
      <kbd class="mr-12px c-soft">{{ place + 1 }}</kbd> {{ one.label }}
    </button>
  </div>
  <RefusalNote v-if="problem" :said="problem" />
  <p v-else class="soft">{{ field.hint }}</p>
</template>

<style scoped>
button.on {
  font-weight: 600;
  color: var(--go);
  background: var(--go-wash);
  border: 2px solid var(--go);
}
</style>
