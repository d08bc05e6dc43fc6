/**
 * Sets up the invented Hollow Oak Bee School: its operator, its connections and its mapping.
 */
@NullMarked
package yoru.server.demo;

import org.jspecify.annotations.NullMarked;
