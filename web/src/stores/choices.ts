import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { ask, type ChoicesView } from '../api/client'

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
  const choices = shallowRef<ChoicesView>(NOTHING)
  void ask((api) => api.GET('/api/choices'))
    .then((found) => (choices.value = found))
    .catch(() => undefined)
  /** The words of a stage of a fastener. */
  const stage = (key: string) => choices.value.stages.find((one) => one.key === key)
  return { choices, stage }
})
