export { ElButton as default } from 'element-plus/es'
