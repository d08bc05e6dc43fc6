/**
 * The connected systems: their addresses, secrets and catalogues.
 */
@NullMarked
package yoru.server.systems;

import org.jspecify.annotations.NullMarked;
