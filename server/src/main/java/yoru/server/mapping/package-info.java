/**
 * The rulebook and its versions: the grid, drafts and their consequence, publishing, history.
 */
@NullMarked
package yoru.server.mapping;

import org.jspecify.annotations.NullMarked;
