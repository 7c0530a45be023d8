<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import type { Fitting, MapPartView, ProcedureView } from '../api/client'
import { useJobPart } from '../composables/useJobPart'
import { useJob } from '../stores/job'
import PartMap from './PartMap.vue'

const props = defineProps<{ procedures: ProcedureView[]; taken: Fitting[] }>()
const emit = defineEmits<{ add: [key: string, axle: string] }>()
const sought = ref('')
const store = useJob()
const {
  found: axles,
  guarded,
  again,
} = useJobPart(
  'parts',
  (path) => (api) => api.GET('/api/jobs/{job_id}/parts', { params: { path } }),
)
const part = shallowRef<{ axle: string; part: MapPartView } | null>(null)

/** Which axle a car has is its own fact: told here it stands in its record too. */
const tellLayout = (axle: string, choice: string) =>
  guarded(async () => {
    await store.write({ kind: 'entered', key: `${axle}.layout`, choice })
    await again()
  })

function pick(axle: string, one: MapPartView | null): void {
  part.value = one && { axle, part: one }
  sought.value = ''
}

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
    .filter((one) => (part.value ? part.value.part.work.includes(one.key) : holds(one.sought)))
    .sort((one, other) => rank(one).localeCompare(rank(other)))
})
const name = (axle: string) => (axle ? axle[0]!.toUpperCase() + axle.slice(1) : 'Add')
</script>

<template>
  <section class="card stack" aria-label="Add what is fitted">
    <h3>Add what is fitted</h3>
    <div class="grid gap-8px">
      <figure v-for="one in axles" :key="one.axle" class="m-0">
        <PartMap
          v-if="one.parts.length"
          :axle="one"
          :picked="part?.axle === one.axle ? part.part.key : ''"
          @pick="pick(one.axle, $event)"
        />
        <figcaption v-if="one.parts.length" class="soft">
          {{ name(one.axle) }}: {{ one.layout }}, front upwards
        </figcaption>
        <label v-else class="labelled">
          {{ name(one.axle) }} axle: what it hangs on
          <el-select
            :persistent="false"
            model-value=""
            :aria-label="`${name(one.axle)} axle: what it hangs on`"
            :empty-values="[null, undefined]"
            @change="tellLayout(one.axle, $event)"
          >
            <el-option value="" label="not told; search by word" />
            <el-option
              v-for="choice in one.choices"
              :key="choice.value"
              :value="choice.value"
              :label="choice.label"
            />
          </el-select>
        </label>
      </figure>
    </div>
    <el-alert v-if="part" type="success" :closable="false" role="note">
      <span>
        <b>{{ part.part.label }}, {{ part.axle }}</b>
        <template v-if="part.part.joints.length"> · {{ part.part.joints.join(', ') }}</template>
        <template v-if="part.part.carries"> · held meanwhile: {{ part.part.carries }}</template>
        <template v-if="part.part.along"> · along it: {{ part.part.along }}</template>
        <template v-if="part.part.moves"> · {{ part.part.moves }}</template>
      </span>
      <el-button text @click="part = null">Everything</el-button>
    </el-alert>
    <el-input
      v-model="sought"
      type="search"
      placeholder="Part or job"
      aria-label="Find"
      @input="part = null"
    />
    <ul class="max-h-460px bare-list [overflow-y:auto]">
      <li
        v-for="one in found"
        :key="one.key"
        :class="{ no: !one.fits }"
        class="grid col-auto gap-y-4px gap-x-12px py-10px px-0 ruled"
      >
        <div>
          <b>{{ one.title }}</b>
          <span
            v-if="one.own"
            class="py-0 px-8px ml-6px text-14px c-go [border:1px_solid_currentcolor] [border-radius:10px]"
            >our own</span
          >
          <p class="soft text-15px">{{ one.fits ? one.about : one.why_not }}</p>
        </div>
        <div v-if="one.fits" class="grid gap-6px content-start">
          <el-button
            v-for="axle in one.axles.length ? one.axles : ['']"
            :key="axle"
            class="pick"
            :disabled="isTaken(one.key, axle)"
            :aria-label="`${one.title}: ${axle || 'add'}`"
            @click="emit('add', one.key, axle)"
          >
            {{ isTaken(one.key, axle) ? '✓' : '+' }} {{ name(axle) }}
          </el-button>
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.no b {
  color: var(--soft);
}
</style>
