<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../stores/job'
import ChoiceField from './ChoiceField.vue'
import MeasuringField from './MeasuringField.vue'

/** Fields by their keys, there where they are missed, under the place they are of; what is not asked is left out. */
const props = defineProps<{ keys: string[] }>()
const store = useJob()
const known = computed(() => new Map(store.sheet?.fields.map((one) => [one.key, one])))
const fields = computed(() => props.keys.flatMap((key) => known.value.get(key) ?? []))
const place = (axle: string, side: string) => [axle, side].filter(Boolean).join(' ')
const places = computed(() => [...new Set(fields.value.map((one) => place(one.axle, one.side)))])
const at = (name: string) => fields.value.filter((one) => place(one.axle, one.side) === name)
const title = (name: string) => (name ? name[0]!.toUpperCase() + name.slice(1) : 'The car')
</script>

<template>
  <div v-if="fields.length" class="stack">
    <section v-for="name in places" :key="name" class="stack" :aria-label="title(name)">
      <p class="font-600 soft">{{ title(name) }}</p>
      <template v-for="field in at(name)" :key="field.key">
        <ChoiceField v-if="field.choices.length" :field="field" :prefix="name" />
        <MeasuringField v-else :field="field" :prefix="name" />
      </template>
    </section>
  </div>
</template>
