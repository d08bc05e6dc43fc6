/**
 * Measurements of the engine; nothing else uses them.
 */
package yoru.bench;
