package ohmoscope.web.entry;

/** A job's evidence is no longer what it was; told to everybody who has the job open once it is stored. */
public record EvidenceChanged(long jobId) {}
