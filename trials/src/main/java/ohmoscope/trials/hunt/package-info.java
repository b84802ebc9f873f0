/**
 * Hunts played to the end: a board with a hidden fault, a bench that answers as a real one does, a technician who does
 * what he is told, and the count of what that took.
 */
package ohmoscope.trials.hunt;
