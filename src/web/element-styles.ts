/**
 * Styles of the components of Element Plus that are used, with those that they are made of. All of them would be three times as many rules,
 * some of which the browser has to try on every element that comes or changes.
 */
import 'element-plus/es/components/dialog/style/css'
import 'element-plus/es/components/dropdown/style/css'
import 'element-plus/es/components/dropdown-item/style/css'
import 'element-plus/es/components/dropdown-menu/style/css'
import 'element-plus/es/components/message/style/css'
import 'element-plus/es/components/message-box/style/css'
import 'element-plus/es/components/popover/style/css'
import 'element-plus/es/components/select-v2/style/css'
import 'element-plus/theme-chalk/dark/css-vars.css'
