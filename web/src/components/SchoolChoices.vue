<script setup lang="ts">
import type { Brief, SchoolView } from '../api/client'

defineProps<{ schools: SchoolView[] }>()
const brief = defineModel<Brief>({ required: true })

function choose(key: string, way: string): void {
  brief.value = { ...brief.value, schools: { ...brief.value.schools, [key]: way } }
}
</script>

<template>
  <section class="card stack" aria-label="Where schools differ">
    <h3>Where schools differ</h3>
    <p class="soft">The workshop's choice stands; changed here it holds for this job.</p>
    <label v-for="one in schools" :key="one.key" class="labelled">
      {{ one.question }}
      <el-select
        :persistent="false"
        :model-value="one.way"
        :aria-label="one.question"
        @change="choose(one.key, $event)"
      >
        <el-option v-for="way in one.ways" :key="way.value" :value="way.value" :label="way.label" />
      </el-select>
      <span class="soft text-15px font-400">{{ one.said }}</span>
    </label>
  </section>
</template>
