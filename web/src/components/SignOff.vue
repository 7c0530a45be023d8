<script setup lang="ts">
import RefusalNote from './RefusalNote.vue'
import { computed, ref } from 'vue'
import { useActing } from '../composables/useActing'
import { useRecord } from '../composables/useRecord'
import { useJob } from '../stores/job'
import { sayMoment } from '../composables/useWords'
import ReasonDialog from './ReasonDialog.vue'

const store = useJob()
const { problem, busy, act } = useActing()
const name = ref('')
const opening = ref(false)
const signature = computed(() => store.job!.signature)
const { found: record, isOfNow } = useRecord()
const severities = computed(() => record.value?.findings.map((one) => one.severity) ?? [])
const blocked = computed(() => severities.value.includes('blocks'))
const listed = computed(
  () => severities.value.filter((one) => ['open', 'question'].includes(one)).length,
)

async function sign(): Promise<void> {
  if (await act({ kind: 'signed', name: name.value })) name.value = ''
}

function reopen(reason: string): void {
  void act({ kind: 'reopened', reason })
}
</script>

<template>
  <section class="card grid gap-10px justify-items-start">
    <h3>Signature</h3>
    <template v-if="signature">
      <el-alert :type="signature.intact ? 'success' : 'error'" :closable="false" role="status">
        <span v-if="signature.intact">
          ✓ Signed by <b>{{ signature.name }}</b>, {{ sayMoment(signature.at) }}. The log is as it
          was signed.
          {{ signature.whole ? '' : 'Its seal is of 0.1 and does not cover title and car.' }}
        </span>
        <span v-else>✕ The log was changed after {{ signature.name }} signed it.</span>
      </el-alert>
      <p class="soft">Fingerprint {{ signature.digest.slice(0, 16) }}…</p>
      <div v-if="signature.listed.length">
        <b>Signed with these items open</b>
        <ul>
          <li v-for="one in signature.listed" :key="one">{{ one }}</li>
        </ul>
      </div>
      <el-button class="screen-only" @click="opening = true">Open the record again…</el-button>
      <ReasonDialog
        v-model="opening"
        title="Open the signed record"
        confirm="Open it again"
        @given="reopen"
      />
    </template>
    <form v-else class="row items-end" @submit.prevent="sign">
      <label class="grid gap-4px font-600">
        Your name
        <el-input v-model="name" maxlength="100" autocomplete="off" />
      </label>
      <el-button :type="blocked ? '' : 'primary'" native-type="submit" :disabled="busy || !isOfNow">
        {{ listed ? `Sign with ${listed} open` : 'Sign' }}
      </el-button>
      <span v-if="blocked" class="soft">First close what blocks it.</span>
    </form>
    <RefusalNote :said="problem" />
  </section>
</template>
