/**
 * The connected systems: their addresses, secrets and catalogues, and the landscape that they make.
 */
@NullMarked
package yoru.server.systems;

import org.jspecify.annotations.NullMarked;
