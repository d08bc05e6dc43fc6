/**
 * What the connected systems are told, again and again until they have answered.
 */
@NullMarked
package yoru.server.deliveries;

import org.jspecify.annotations.NullMarked;
