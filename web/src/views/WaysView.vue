<script setup lang="ts">
import RefusalNote from '../components/RefusalNote.vue'
import FilePick from '../components/FilePick.vue'
import { ref, shallowRef } from 'vue'
import { ask, sending, type ProcedurePreview } from '../api/client'
import BayCard from '../components/BayCard.vue'
import BackupCard from '../components/BackupCard.vue'
import KeptCopies from '../components/KeptCopies.vue'
import MeasuresCard from '../components/MeasuresCard.vue'
import { useRead } from '../composables/useRead'

const {
  found: procedures,
  problem,
  busy,
  guarded,
  again,
} = useRead(['procedures'], (api) => api.GET('/api/procedures'))
const { found: schools } = useRead(['settings', 'schools'], (api) =>
  api.GET('/api/settings/schools'),
)
const file = ref<File | null>(null)
const preview = shallowRef<ProcedurePreview | null>(null)

const choose = (key: string, way: string) =>
  guarded(async () => {
    if (!schools.value) return
    const body = { ways: { ...schools.value.ways, [key]: way }, seen: schools.value.version }
    schools.value = await ask((api) => api.PUT('/api/settings/schools', { body }))
  })

const bring = (apply: boolean) => {
  const query = { apply, seen: preview.value?.version ?? 0 }
  const told = { params: { query }, ...sending(file.value!) }
  return ask((api) => api.POST('/api/procedures/import', told))
}

const look = (picked: File) =>
  guarded(async () => {
    file.value = picked
    preview.value = null
    preview.value = await bring(false)
  })

const keep = () =>
  guarded(async () => {
    preview.value = await bring(true)
    await again()
  })

const remove = (key: string) =>
  guarded(async () => {
    await ask((api) =>
      api.DELETE('/api/procedures/{procedure}', { params: { path: { procedure: key } } }),
    )
    await again()
  })
</script>

<template>
  <div class="with-aside">
    <section class="stack">
      <h2>Procedures</h2>
      <p class="soft">
        Kinds of job as files: steps, what they wait for, fasteners, hardware. Write one, or keep an
        edited plan from a job.
      </p>
      <RefusalNote :said="problem" />
      <table class="sheet-table">
        <tbody>
          <tr v-for="one in procedures" :key="one.key">
            <td>
              <b>{{ one.title }}</b> <span v-if="one.own" class="c-go">our own</span>
              <span class="soft block text-15px">{{ one.about }}</span>
            </td>
            <td class="figure whitespace-nowrap">{{ one.operations }} steps</td>
            <td>
              <a :href="`/api/procedures/${one.key}/file`" :download="`${one.key}.toml`">File</a>
            </td>
            <td>
              <el-button
                v-if="one.own"
                text
                :disabled="busy"
                :aria-label="`Take away ${one.title}`"
                @click="remove(one.key)"
              >
                Take away
              </el-button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <aside class="stack">
      <section class="card stack" aria-label="Where schools differ">
        <h3>Where schools differ</h3>
        <p class="soft">How this workshop does it. A job can choose otherwise.</p>
        <template v-if="schools">
          <label v-for="(question, key) in schools.questions" :key="key" class="labelled">
            {{ question }}
            <el-select
              :persistent="false"
              :model-value="schools.ways?.[key]"
              :disabled="busy"
              :aria-label="question"
              @change="choose(key, $event)"
            >
              <el-option
                v-for="(words, way) in schools.choices[key]"
                :key="way"
                :value="way"
                :label="words"
              />
            </el-select>
            <span class="soft text-15px font-400">{{ schools.said[key] }}</span>
          </label>
        </template>
      </section>
      <BayCard />
      <MeasuresCard />
      <BackupCard />
      <KeptCopies />
      <p class="soft text-15px font-400">
        <a href="/licences.txt">Licences of the fonts and scripts that ship with it</a>
      </p>
      <section class="card stack">
        <h3>Bring in a procedure</h3>
        <FilePick label="Procedure file (TOML)" accept=".toml" @picked="look" />
        <template v-if="preview">
          <el-alert type="success" :closable="false" role="status">
            <span>
              <b>{{ preview.title }}</b>: {{ preview.operations }} steps.
              {{ preview.applied ? '✓ Kept.' : preview.said }}
            </span>
          </el-alert>
          <el-button
            v-if="!preview.applied && preview.outcome !== 'same'"
            type="primary"
            :disabled="busy"
            @click="keep"
          >
            Keep it
          </el-button>
        </template>
      </section>
    </aside>
  </div>
</template>
