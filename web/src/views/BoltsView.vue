<script setup lang="ts">
import NothingYet from '../components/NothingYet.vue'
import RefusalNote from '../components/RefusalNote.vue'
import { useMediaQuery } from '@vueuse/core'
import { computed, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { JointView } from '../api/client'
import JointForm from '../components/JointForm.vue'
import JointPlaceForm from '../components/JointPlaceForm.vue'
import JointMap from '../components/JointMap.vue'
import JointWork from '../components/JointWork.vue'
import MoveCar from '../components/MoveCar.vue'
import TorqueListCard from '../components/TorqueListCard.vue'
import { useActing } from '../composables/useActing'
import { sourcesOf, useJoints } from '../composables/useJoints'
import { useGauges } from '../stores/gauges'
import { useJob } from '../stores/job'

const store = useJob()
const { view, chosen, joint, adapter, problem, behind, keep, kept } = useJoints()
const { problem: refused, act } = useActing()
const picked = ref<number[]>([])
/** The code on a bag's label names the joint its fasteners belong to. */
chosen.value = String(useRoute().query.joint ?? '')
const drawing = ref(false)
const sources = computed(() => sourcesOf(view.value?.joints ?? []))
const pasting = ref(false)

const narrow = useMediaQuery('(width <= 760px)')
const isDone = (one: JointView) => one.done === one.bolts.length
const WHERE = [
  'Front left',
  'Front right',
  'Front axle',
  'Rear left',
  'Rear right',
  'Rear axle',
  'The car',
]
const whereOf = (one: JointView) => {
  const words = [one.axle, one.side || (one.axle && 'axle')].filter(Boolean).join(' ')
  return words ? words[0]!.toUpperCase() + words.slice(1) : 'The car'
}
/** Joints corner by corner, those with something open first. */
const corners = computed(() =>
  WHERE.map((where) => {
    const own = view.value?.joints.filter((one) => whereOf(one) === where) ?? []
    return { where, joints: [...own.filter((one) => !isDone(one)), ...own.filter(isDone)] }
  }).filter((group) => group.joints.length),
)

function pick(number: number): void {
  picked.value = picked.value.includes(number)
    ? picked.value.filter((one) => one !== number)
    : [...picked.value, number]
}

function choose(key: string): void {
  chosen.value = key
  picked.value = []
  drawing.value = false
}

onMounted(() => void useGauges().load())
</script>

<template>
  <div class="stack">
    <header class="row">
      <h2 class="mr-auto">Bolts</h2>
      <el-button @click="drawing = !drawing">
        {{ drawing ? 'Back to the maps' : '+ Draw a joint' }}
      </el-button>
      <el-button v-if="view?.joints.length" @click="pasting = !pasting">
        {{ pasting ? 'Put the list away' : 'Paste a torque list' }}
      </el-button>
      <a
        v-if="view?.joints.length"
        :href="`${store.path}/labels.pdf`"
        target="_blank"
        class="content-center min-h-44px font-600"
      >
        Labels for the bags
      </a>
    </header>
    <RefusalNote :said="problem || refused" />
    <TorqueListCard v-if="pasting" @show="choose" @done="pasting = false" />
    <JointForm v-if="drawing" :sources="sources" @done="choose" />
    <template v-else>
      <NothingYet
        v-if="view && !view.joints.length"
        said="No joint is drawn yet. Draw one: its places, its threads, its values with their source."
      >
        <router-link
          v-if="!store.job?.steps.length"
          :to="{ name: 'order' }"
          class="content-center min-h-44px font-600"
        >
          A plan draws its own: say what is fitted →
        </router-link>
      </NothingYet>
      <el-select
        v-if="narrow && joint"
        :model-value="joint.key"
        aria-label="Joint"
        @change="choose"
      >
        <el-option-group v-for="group in corners" :key="group.where" :label="group.where">
          <el-option
            v-for="one in group.joints"
            :key="one.key"
            :value="one.key"
            :label="`${isDone(one) ? '✓ ' : ''}${one.label} ${one.done}/${one.bolts.length}`"
          />
        </el-option-group>
      </el-select>
      <div
        v-for="group in narrow ? [] : corners"
        :key="group.where"
        class="grid grid-cols-[110px_minmax(0,1fr)] gap-10px items-baseline"
      >
        <h3>{{ group.where }}</h3>
        <div class="row list" role="group" :aria-label="`Joints, ${group.where.toLowerCase()}`">
          <button
            v-for="one in group.joints"
            :key="one.key"
            type="button"
            :class="{ on: one.key === joint?.key, all: isDone(one) }"
            :aria-pressed="one.key === joint?.key"
            class="min-h-48px py-0 px-16px [font:600_18px_var(--figures)] cursor-pointer bg-card edged-soft"
            @click="choose(one.key)"
          >
            {{ isDone(one) ? '✓' : '' }} {{ one.label }}
            <span class="figure">{{ one.done }}/{{ one.bolts.length }}</span>
          </button>
        </div>
      </div>
      <div
        v-if="joint"
        class="grid grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] gap-18px items-start lt-tablet:one-col"
      >
        <section class="card stack" :aria-label="joint.label">
          <div class="row justify-between">
            <h3>{{ joint.label }}</h3>
            <span class="soft">
              {{ joint.order_said
              }}{{
                joint.passes_pct.length > 1 ? `, passes of ${joint.passes_pct.join(', ')} %` : ''
              }}
            </span>
          </div>
          <JointMap :joint="joint" :picked="picked" @pick="pick" />
        </section>
        <JointWork
          v-model:adapter="adapter"
          :joint="joint"
          :behind="behind"
          :picked="picked"
          @done="picked = []"
        />
      </div>
      <JointPlaceForm
        v-if="joint && picked.length"
        :joint="joint"
        :places="picked"
        :sources="sources"
        @done="picked = []"
      />
      <MoveCar v-if="joint" />
      <section v-if="joint" class="card stack scroll" aria-label="Every place">
        <table class="sheet-table">
          <tbody>
            <tr v-for="one in joint.bolts" :key="one.number">
              <th>{{ one.number }}</th>
              <td>{{ one.thread }}</td>
              <td>{{ one.spec }}</td>
              <td>{{ one.note }}</td>
              <td :class="one.final ? 'go' : ''">{{ one.final ? '✓ ' : '' }}{{ one.said }}</td>
            </tr>
          </tbody>
        </table>
        <div class="row">
          <el-button v-if="store.job?.car_id" @click="keep(joint.key)">
            Keep its map in the car's record
          </el-button>
          <span v-if="kept === joint.key" class="go" role="status">
            ✓ The next job on this car begins with it.
          </span>
          <el-button v-if="!joint.done" text @click="act({ kind: 'erased', joint: joint.key })">
            Take this joint off
          </el-button>
        </div>
      </section>
      <section v-if="view?.recheck.length" class="card stack" aria-label="After the drive">
        <h3>After the drive</h3>
        <ul class="pl-20px m-0">
          <li v-for="one in view.recheck" :key="one">{{ one }}</li>
        </ul>
        <a :href="`${store.path}/recheck.ics`">Into the calendar</a>
      </section>
    </template>
  </div>
</template>

<style scoped>
.list button.on {
  border: 2px solid var(--ink);
}

.list button.all {
  color: var(--go);
  background: var(--go-wash);
}

.go {
  color: var(--go);
}
</style>
