/** The practice contacts. */
@org.jspecify.annotations.NullMarked
package yoru.standins.contacts;
