/**
 * The engine as a command.
 */
@NullMarked
package yoru.cli;

import org.jspecify.annotations.NullMarked;
