/**
 * Who may be where and when: windows of access with the reasons that make them up.
 */
@NullMarked
package yoru.core.access;

import org.jspecify.annotations.NullMarked;
