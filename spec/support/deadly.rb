# frozen_string_literal: true

# Loaded into every process of a worker by cut_off_spec: an import called "deadly" ends whatever process reads it.
TracePoint.new(:end) { |point|
  next unless point.self.name == "Fobrel::Jobs::ReadImport"
  point.self.prepend(
    Module.new {
      def found
        (@import.name == "deadly") ? Process.kill(:KILL, Process.pid) && sleep : super
      end
    }
  )
}.enable
