/** The rules of the job and their computation: plain Java, no framework, no input or output, no clock. */
@org.jspecify.annotations.NullMarked
package yoru.core;
