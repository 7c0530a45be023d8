import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { ChoicesView } from '../api/client'
import { useRead } from '../composables/useRead'

const NOTHING: ChoicesView = {
  torque_units: [],
  length_units: [],
  property_classes: [],
  stages: [],
  entry_names: {},
  gate_kinds: [],
  cards: {},
}

/** What can be chosen from anywhere; read once. */
export const useChoices = defineStore('choices', () => {
  const { found } = useRead(['choices'], (api) => api.GET('/api/choices'))
  const choices = computed(() => found.value ?? NOTHING)
  /** The words of a stage of a fastener. */
  const stage = (key: string) => choices.value.stages.find((one) => one.key === key)
  return { choices, stage }
})
