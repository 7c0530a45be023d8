export { ElInput as default } from 'element-plus/es'
